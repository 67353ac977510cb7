<script lang="ts">
	import { goto } from '$app/navigation';
	import { layoutOf } from '$lib/core/profile';
	import { wireTime, type Scope } from '$lib/core/transfer';
	import type { RestoreSource } from '$lib/core/drawer';
	import { desk } from '$lib/hardware/desk.svelte';
	import BenchPanel from '$lib/ui/BenchPanel.svelte';
	import DryRunNote from '$lib/ui/DryRunNote.svelte';
	import PreflightCard from '$lib/ui/PreflightCard.svelte';
	import RawPreflight from '$lib/ui/RawPreflight.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import When from '$lib/ui/When.svelte';
	import { count, problemOf } from '$lib/ui/words';

	let { data } = $props();
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	let starting = $state(false);
	let title = $state('');
	let kind = $state<'routine' | 'before update'>('routine');
	let pace = $state(1);
	// svelte-ignore state_referenced_locally
	let what = $state(data.chosen.length > 0 ? 'slots' : (data.area ?? 'all'));

	const restoring = $derived(data.restoring);
	const chosen = $derived(
		data.chosen.filter(
			({ area, index }) => !restoring || data.slots.some((slot) => slot.area === area && slot.index === index)
		)
	);
	let twice = $state(true);
	const areas = $derived(
		(data.profile?.areas ?? []).filter(({ id }) =>
			restoring
				? data.slots.some(({ area }) => area === id)
				: data.profile?.capture.some((way) => way.area === id)
		)
	);
	const scope = $derived.by((): Scope => {
		if (what === 'slots') return { kind: 'slots', slots: chosen };
		if (restoring && data.profile)
			return {
				kind: 'slots',
				slots: data.slots
					.filter(({ area }) => what === 'all' || area === what)
					.map(({ area, index }) => ({ area, index }))
			};
		return what === 'all' ? { kind: 'all' } : { kind: 'area', area: what };
	});
	const blind = $derived(restoring && data.profile?.capture.length === 0);
	/** The source, with the slots that were chosen on this page. */
	const source = $derived.by((): RestoreSource | null => {
		const { source: given } = data;
		if (!given || !data.profile) return given;
		if (given.from === 'version') return { ...given, scope };
		if (given.from === 'sounds' && what === 'slots')
			return {
				...given,
				sounds: given.sounds.filter((sound) =>
					chosen.some(({ area, index }) => area === sound.area && index === sound.index)
				)
			};
		return given;
	});
	const tooLong = $derived.by(() => {
		const { profile, adapter } = data;
		if (!profile || !adapter || adapter.verdict.longestBytes >= adapter.verdict.triedBytes) return null;
		const longest = Math.max(
			...(restoring
				? profile.restore.map(({ send }) => send)
				: profile.capture.map(({ expect }) => expect)
			).map((id) => layoutOf(profile, id).length)
		);
		return longest > adapter.verdict.longestBytes
			? { longest, survives: adapter.verdict.longestBytes }
			: null;
	});

	async function start() {
		if (starting) return;
		starting = true;
		problem = null;
		try {
			const id = await desk.start({
				direction: restoring ? 'restore' : 'capture',
				deviceId: data.device.id,
				scope,
				kind: restoring ? 'after restore' : kind,
				title: title.trim(),
				versionId: data.version?.id ?? null,
				source,
				predictedMs: restoring || !data.profile ? null : wireTime(data.profile, scope),
				twice,
				resume: null,
				paceFactor: pace
			});
			await goto(`/transfers/${id}`);
		} catch (error) {
			problem = problemOf(error);
			starting = false;
		}
	}
</script>

<svelte:head
	><title>{restoring ? 'Restore' : 'Back up'} {data.device.name} · Silent Drawer</title></svelte:head
>

<h1>{restoring ? 'Restore' : 'Back up'} {data.device.name}</h1>
{#if restoring}
	<p class="mt-1">
		From {data.title}{#if data.version}&nbsp;of <When at={data.version.takenAt} />{data.version.verified
				? ''
				: ', which is not verified'}{/if}.
	</p>
{/if}

<div class="mt-4 grid gap-6 xl:grid-cols-[minmax(0,1fr)_24rem]">
	<div class="space-y-5">
		{#if data.profile}
			<fieldset class="flex flex-wrap gap-x-5 gap-y-2">
				<legend class="mb-1">What</legend>
				<label class="flex items-center gap-2"
					><input type="radio" class="radio radio-sm" bind:group={what} value="all" /> Everything{restoring
						? ' in this version'
						: ' it can send'}</label
				>
				{#if areas.length > 1}
					{#each areas as area (area.id)}<label class="flex items-center gap-2"
							><input type="radio" class="radio radio-sm" bind:group={what} value={area.id} />
							{area.name} only</label
						>{/each}
				{/if}
				{#if chosen.length > 0}
					<label class="flex items-center gap-2"
						><input type="radio" class="radio radio-sm" bind:group={what} value="slots" /> The {count(
							chosen.length,
							'chosen slot'
						)}</label
					>
				{/if}
			</fieldset>
			<PreflightCard
				profile={data.profile}
				device={data.device}
				{scope}
				{restoring}
				slots={data.slots}
				{pace}
				{starting}
				{start}
			/>
		{:else}
			<RawPreflight {restoring} messages={data.rawMessages} bind:twice {starting} {start} />
		{/if}
		{#if tooLong}
			<p class="max-w-prose border-l-4 border-rust pl-3" role="alert">
				The adapter of this port was tested: messages longer than {tooLong.survives.toLocaleString('en')} bytes
				do not survive it, and this device’s have up to {tooLong.longest.toLocaleString('en')}. Use another
				adapter.
			</p>
		{/if}
		{#if data.dry}<DryRunNote dry={data.dry[desk.world]} />{/if}
		<details>
			<summary class="cursor-pointer">Title, reason and pace</summary>
			<div class="mt-2 grid max-w-2xl gap-3 sm:grid-cols-3">
				<div class="field">
					<label for="title">Title</label><input
						id="title"
						class="input w-full"
						maxlength="80"
						bind:value={title}
						placeholder="Optional"
					/>
				</div>
				{#if !restoring}
					<div class="field">
						<label for="kind">Reason</label>
						<select id="kind" class="select w-full" bind:value={kind}
							><option value="routine">Routine backup</option><option value="before update"
								>Before an update</option
							></select
						>
					</div>
				{/if}
				<div class="field">
					<label for="pace">Pauses between messages</label>
					<select id="pace" class="select w-full" bind:value={pace}
						><option value={1}>As the profile says</option><option value={2}>Twice as long</option><option
							value={5}>Five times as long</option
						></select
					>
				</div>
			</div>
		</details>
		{#if problem}<ProblemNote {problem} />{/if}
		{#if blind}<p class="max-w-prose">
				This device cannot be read. No safety copy is possible, and nothing can be proved: the result will be
				a list of names to look at on its display.
			</p>{/if}
	</div>
	{#if data.device.benchUnit && desk.world === 'bench'}
		<section aria-label="Front panel"><BenchPanel unitId={data.device.benchUnit} /></section>
	{/if}
</div>
