<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { GOALS, POLICIES, type Policy } from '$lib/core/plan/policy';
	import { suppose, supposedName, type Supposed } from '$lib/core/plan/suppose';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { notices } from '$lib/ui/notices.svelte';
	import { refresh } from '$lib/ui/refresh';
	import { call } from '$lib/hardware/api';
	import { remembered } from '$lib/ui/remembered.svelte';
	import When from '$lib/ui/When.svelte';
	import { applyChanges, indexRig, portName } from '$lib/core/rig';
	import PairingNotes from '$lib/ui/pairing/PairingNotes.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { changeRig } from '$lib/ui/wiring/change-rig';
	import ComparePlans from '$lib/ui/wiring/ComparePlans.svelte';
	import PlanResult from '$lib/ui/wiring/PlanResult.svelte';
	import Timing from '$lib/ui/wiring/Timing.svelte';
	import { planner } from '$lib/workers/planner.svelte';

	let { data } = $props();
	const order = remembered('plan', {
		policy: 'shared-ports' as Policy,
		seconds: 30,
		more: [] as Supposed[],
		newName: '',
		newParts: 1
	});
	const wanted = $derived(order.value);
	const more = $derived(wanted.more);
	const doing = new Doing();
	const kept = $derived(data.kept);
	const index = $derived(indexRig(data.rig));
	const locks = $derived(
		data.rig.devices.flatMap((device) => {
			const { out, in: into, channel } = device.lock;
			const words = [
				out ? portName(index.ports.get(out)!) : '',
				into ? `return ${portName(index.ports.get(into)!)}` : '',
				channel ? `channel ${channel}` : ''
			].filter(Boolean);
			return words.length > 0 ? [{ device, words: words.join(', ') }] : [];
		})
	);

	async function run() {
		if (planner.running) return;
		const rig = more.length > 0 ? suppose(data.rig, more) : data.rig;
		const supposed = more.map(supposedName);
		const { policy, seconds } = wanted;
		const title = `${POLICIES[policy].title}${supposed.length > 0 ? `, with ${supposed.join(' and ')}` : ''}`;
		await doing.run(async () => {
			const made = await planner.run(rig, { policy, seconds }, title, supposed);
			const { id } = await call<{ id: number }>('POST', '/plans', made);
			// Who went on to another page meanwhile stays there.
			if (page.url.pathname === '/wiring/plan')
				await goto(`/wiring/plan?plan=${id}`, { invalidateAll: true, noScroll: true, keepFocus: true });
			else {
				notices.say(`The plan “${title}” is made and kept.`, 'good');
				await refresh();
			}
		});
	}
	$effect(() => pageKeys.add([{ key: 'p', says: 'Make a plan', run: () => void run() }]));
</script>

<svelte:head><title>Plan and timing · Silent Drawer</title></svelte:head>

<div class="grid gap-5 lg:grid-cols-[1fr_20rem]">
	<form
		class="sheet p-4"
		onsubmit={(event) => {
			event.preventDefault();
			void run();
		}}
	>
		<fieldset class="grid gap-2">
			<legend class="mb-1">How ports and channels are given out</legend>
			{#each Object.entries(POLICIES) as [id, { title, says }] (id)}
				<label class="flex items-start gap-2">
					<input
						type="radio"
						class="radio mt-1 radio-sm"
						name="policy"
						value={id}
						bind:group={wanted.policy}
					/>
					<span><strong>{title}</strong> <span class="small-print">{says}</span></span>
				</label>
			{/each}
		</fieldset>
		<div class="mt-3 flex flex-wrap items-end gap-3">
			<div class="field">
				<label for="plan-seconds">Time at most, s</label>
				<input
					id="plan-seconds"
					type="number"
					min="1"
					max="600"
					class="input w-24 input-sm"
					bind:value={wanted.seconds}
				/>
			</div>
			{#if planner.running}
				<button type="button" class="btn btn-sm" onclick={() => planner.cancel()}>Stop planning</button>
			{:else}
				<button class="btn btn-primary btn-sm">Make a plan <span class="key">P</span></button>
			{/if}
			<a class="link-quiet mb-1" href="#timing">How late notes arrive</a>
			<p role="status" class="small-print">
				{#if planner.running}
					{#if planner.progress}
						{GOALS[planner.progress.goal]}: best {planner.progress.best ?? '—'}, bound {planner.progress
							.bound === null
							? '—'
							: Math.round(planner.progress.bound)} · {planner.progress.proved} of {planner.progress.of} goals proved
					{:else}Reading the studio …{/if}
				{/if}
			</p>
		</div>
	</form>
	<div class="grid content-start gap-4">
		<section aria-labelledby="locks-heading">
			<h2 id="locks-heading" class="!text-base">Locked choices</h2>
			<ul class="text-sm">
				{#each locks as { device, words } (device.id)}
					<li class="flex items-center gap-2">
						<span class="flex-1"><strong>{device.name}</strong> {words}</span>
						<button
							class="btn btn-xs"
							onclick={() =>
								changeRig(
									[{ do: 'wire', device: device.id, wiring: { lock: {} } }],
									`${device.name} is unlocked.`
								)}>Unlock {device.name}</button
						>
					</li>
				{:else}<li class="small-print">None. Lock a device under Channels.</li>{/each}
			</ul>
		</section>
		<section aria-labelledby="suppose-heading">
			<h2 id="suppose-heading" class="!text-base">What if there were …</h2>
			<ul class="text-sm">
				{#each more as supposed, i (i)}
					<li class="flex items-center gap-2">
						<span class="flex-1">{supposedName(supposed)}</span><button
							class="btn btn-ghost btn-xs"
							onclick={() => (wanted.more = more.filter((_, at) => at !== i))}
							>Clear {supposedName(supposed)}</button
						>
					</li>
				{/each}
			</ul>
			<div class="mt-1 flex flex-wrap gap-1">
				<button class="btn btn-xs" onclick={() => (wanted.more = [...more, { kind: 'interface', outs: 4 }])}
					>4 outs more</button
				>
				<button class="btn btn-xs" onclick={() => (wanted.more = [...more, { kind: 'thru box' }])}
					>a thru box</button
				>
			</div>
			<form
				class="mt-1 flex flex-wrap gap-1"
				onsubmit={(event) => {
					event.preventDefault();
					wanted.more = [
						...more,
						{
							kind: 'instrument',
							name: wanted.newName.trim() || 'One more instrument',
							parts: wanted.newParts,
							bytesPerSecond: 400,
							tight: false
						}
					];
					wanted.newName = '';
				}}
			>
				<input
					class="input w-36 input-xs"
					aria-label="Name of a supposed instrument"
					placeholder="One more instrument"
					maxlength="60"
					bind:value={wanted.newName}
				/>
				<input
					class="input w-14 input-xs"
					type="number"
					min="1"
					max="16"
					aria-label="Its parts"
					bind:value={wanted.newParts}
				/>
				<button class="btn btn-xs">Suppose it</button>
			</form>
		</section>
	</div>
</div>
{#if doing.problem}<div class="mt-4"><ProblemNote problem={doing.problem} /></div>{/if}
{#if data.plans.length > 1}
	<nav class="mt-5 flex flex-wrap gap-1" aria-label="Plans that are kept">
		{#each data.plans as entry (entry.id)}
			<a
				class={['btn btn-sm', entry.id === kept?.id && 'btn-primary']}
				aria-current={entry.id === kept?.id ? 'page' : undefined}
				data-sveltekit-noscroll
				href={`/wiring/plan?plan=${entry.id}`}>{entry.id}. {entry.title} <When at={entry.at} /></a
			>
		{/each}
	</nav>
{/if}
<div class="mt-4">
	{#if planner.running && planner.draft}
		<PlanResult made={planner.draft} />
	{:else if kept}
		<PlanResult made={kept} follow={{ rig: data.rig, revision: data.revision }} />
		<PairingNotes
			pairings={data.pairings}
			rig={applyChanges(
				kept.rig,
				kept.plan.steps.map(({ change }) => change)
			)}
			title="What the pairs of this plan are known not to do"
		/>
		{#if data.plans.length > 1}<ComparePlans plans={data.plans} />{/if}
	{:else if !planner.running}
		<p>
			The planner gives every device an out, a return, a channel and a device ID: everybody placed first, then
			tight timing kept apart, then as little as possible to re-plug, then the load spread. It says when a
			plan is proved the best there is. Nothing is changed until you tick its list; the list is kept, and can
			be ticked on the phone in the other hand.
		</p>
	{/if}
</div>
<!-- What was played through before a cable moved, or by another plan, is not shown as this one's. -->
{#key `${data.revision} ${kept?.id}`}<Timing rig={data.rig} against={kept} />{/key}
