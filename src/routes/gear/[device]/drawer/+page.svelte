<script lang="ts">
	import type { VersionMark } from '$lib/core/drawer';
	import { putInTray } from '$lib/ui/tray/put';
	import { attempt } from '$lib/ui/attempt';
	import { goto } from '$app/navigation';
	import { navigating, page } from '$app/state';
	import CompareBytes from '$lib/ui/CompareBytes.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { inTasks } from '$lib/ui/next-task.svelte';
	import OpenFile from '$lib/ui/OpenFile.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import SlotShelf from '$lib/ui/SlotShelf.svelte';
	import TideLine from '$lib/ui/TideLine.svelte';
	import VersionCard from '$lib/ui/VersionCard.svelte';
	import { call } from '$lib/hardware/api';
	import { count, groupHex } from '$lib/ui/words';

	let { data } = $props();
	/** Whoever comes from another page has the device's plate first, then the tide line, the version, its slots. */
	const parts = inTasks(3, navigating.to === null);
	const versions = $derived(JSON.parse(data.marks) as VersionMark[]);
	let chosen = $state<string[]>([]);
	const shownId = $derived(data.shown?.id ?? null);
	const changes = $derived(data.comparison?.by === 'slots' ? data.comparison.comparison : null);

	function show(v: string | null, other: string | null) {
		const query = [v && `v=${v}`, other && `with=${other}`].filter(Boolean).join('&');
		void goto(`${page.url.pathname}?${query}`, { keepFocus: true, noScroll: true });
	}
	const compare = () => (data.withId ? show(shownId, null) : data.before && show(shownId, data.before));
	async function newBank() {
		await attempt(async () => {
			const { id } = await call<{ id: string }>('POST', '/banks', {
				from: 'version',
				versionId: shownId,
				area: data.areas[0].id,
				title: data.shown?.title || `Bank for ${data.device.name}`
			});
			await goto(`/sounds/banks/${id}`);
		});
	}
	const restore = () => {
		if (!shownId || !data.restorable) return;
		void putInTray(`version=${shownId}${chosen.length > 0 ? `&slots=${chosen.join(',')}` : ''}`);
	};

	$effect(() => {
		void shownId;
		chosen = [];
	});
	$effect(() =>
		pageKeys.add([
			...(data.restorable
				? [{ key: 'r', says: 'Restore this version, or the chosen slots', run: restore }]
				: []),
			...(data.before || data.withId
				? [{ key: 'c', says: 'Compare with the version before, or stop comparing', run: compare }]
				: [])
		])
	);
</script>

<svelte:head><title>Drawer of {data.device.name} · Silent Drawer</title></svelte:head>

{#if parts.drawn < 1}
	<p class="small-print">Opening the drawer …</p>
{:else if versions.length === 0}
	<h2>This drawer is empty</h2>
	<p class="mt-1 max-w-prose">
		{(data.profile?.capture.length ?? 0) > 0
			? 'Back it up once, and its sounds can no longer get lost.'
			: data.profile
				? 'It cannot send its memory. A dump file that you have can be kept here, and sent to it.'
				: 'It has no profile yet. A dump file can be kept here raw, byte for byte.'}
	</p>
	<div class="mt-4 flex gap-2">
		{#if (data.profile?.capture.length ?? 0) > 0}<a
				class="btn btn-primary"
				href={`/transfers/new?device=${data.device.id}`}>Back up now</a
			>{/if}
		<OpenFile />
	</div>
{:else if data.shown}
	<TideLine {versions} shown={data.shown.id} other={data.withId} {show} />

	{#if parts.drawn >= 2}<div class="mt-4 flex flex-wrap items-start gap-x-8 gap-y-4">
			<div class="min-w-0 flex-1 basis-80">
				{#key data.shown.id}<VersionCard
						version={data.shown}
						part={data.part}
						older={data.wholeBefore}
						alike={data.alike}
						asks={data.asks}
					/>{/key}
				{#if data.fault}<div class="mt-2"><ProblemNote problem={data.fault} /></div>{/if}
			</div>
			<div class="flex flex-wrap gap-2">
				{#if data.restorable}
					<button class="btn btn-primary btn-sm" onclick={restore}
						>{chosen.length > 0 ? `Restore ${count(chosen.length, 'chosen slot')}` : 'Restore'}&ensp;<span
							class="key">R</span
						></button
					>
				{/if}
				{#if data.withId}
					<button class="btn btn-sm" onclick={compare}>Stop comparing <span class="key">C</span></button>
				{:else if data.before}
					<button class="btn btn-sm" onclick={compare}
						>Compare with the one before <span class="key">C</span></button
					>
				{/if}
				<a class="btn btn-sm" href={`/api/v1/versions/${data.shown.id}/export?as=syx`} download>Export .syx</a
				>
				<a class="btn btn-sm" href={`/api/v1/versions/${data.shown.id}/export?as=mid`} download>Export .mid</a
				>
				{#if data.areas.length > 0}
					<a class="btn btn-sm" href={`/api/v1/versions/${data.shown.id}/export?as=midnam`} download
						>Names .midnam</a
					>
					<a class="btn btn-sm" href={`/api/v1/versions/${data.shown.id}/export?as=csv`} download
						>Programs .csv</a
					>
					<button class="btn btn-sm" onclick={newBank}>Begin a bank with it</button>
				{/if}
				<OpenFile />
			</div>
		</div>{/if}

	{#if parts.drawn < 3}
		<!-- Still to come. -->
	{:else if data.comparison?.by === 'bytes'}
		<CompareBytes messages={data.comparison.messages} />
	{:else if data.fault}
		<p class="mt-4 max-w-prose">The other versions of this drawer are not touched by this.</p>
	{:else if data.raw.length > 0}
		<h2 class="mt-6 mb-1">{count(data.raw.length, 'raw message')}</h2>
		<p class="small-print">No profile reads them; they are kept byte for byte.</p>
		<ol class="mt-2 font-mono text-sm">
			{#each data.raw as message, i (i)}<li>
					{i + 1}. {message.length.toLocaleString('en')} bytes: {groupHex(message.head)}{message.length > 32
						? ' …'
						: ''}
				</li>{/each}
		</ol>
	{:else}
		<SlotShelf
			areas={data.areas}
			slots={data.slots}
			{changes}
			bind:chosen
			choosable={data.restorable}
			focus={data.focus}
			versionId={data.shown.id}
			device={data.device}
			line={data.line}
			profile={data.profile}
		/>
	{/if}
{/if}
