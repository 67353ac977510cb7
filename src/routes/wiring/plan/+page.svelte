<script lang="ts">
	import { GOALS, POLICIES, type Policy } from '$lib/core/plan/policy';
	import { suppose, supposedName, type Supposed } from '$lib/core/plan/suppose';
	import { indexRig, portName } from '$lib/core/rig';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { changeRig } from '$lib/ui/wiring/change-rig';
	import ComparePlans from '$lib/ui/wiring/ComparePlans.svelte';
	import PlanResult from '$lib/ui/wiring/PlanResult.svelte';
	import { problemOf } from '$lib/ui/words';
	import { planner } from '$lib/workers/planner.svelte';

	let { data } = $props();
	let policy = $state<Policy>('shared-ports');
	let seconds = $state(30);
	let more = $state<Supposed[]>([]);
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	let shown = $state(0);
	let newName = $state('');
	let newParts = $state(1);

	const kept = $derived(planner.plans.find(({ id }) => id === shown) ?? planner.plans.at(-1));
	const current = $derived(kept !== undefined && JSON.stringify(kept.rig) === JSON.stringify(data.rig));
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
		problem = null;
		const rig = more.length > 0 ? suppose(data.rig, more) : data.rig;
		const supposed = more.map(supposedName);
		const title = `${POLICIES[policy].title}${supposed.length > 0 ? `, with ${supposed.join(' and ')}` : ''}`;
		try {
			shown = (await planner.run(rig, { policy, seconds }, title, supposed)).id;
		} catch (error) {
			problem = problemOf(error);
		}
	}
	$effect(() => pageKeys.add([{ key: 'p', says: 'Make a plan', run: () => void run() }]));
</script>

<svelte:head><title>Plan · Silent Drawer</title></svelte:head>

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
					<input type="radio" class="radio mt-1 radio-sm" name="policy" value={id} bind:group={policy} />
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
					bind:value={seconds}
				/>
			</div>
			{#if planner.running}
				<button type="button" class="btn btn-sm" onclick={() => planner.cancel()}>Stop planning</button>
			{:else}
				<button class="btn btn-primary btn-sm">Make a plan <span class="key">P</span></button>
			{/if}
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
							onclick={() => (more = more.filter((_, at) => at !== i))}>Clear {supposedName(supposed)}</button
						>
					</li>
				{/each}
			</ul>
			<div class="mt-1 flex flex-wrap gap-1">
				<button class="btn btn-xs" onclick={() => (more = [...more, { kind: 'interface', outs: 4 }])}
					>4 outs more</button
				>
				<button class="btn btn-xs" onclick={() => (more = [...more, { kind: 'thru box' }])}>a thru box</button
				>
			</div>
			<form
				class="mt-1 flex flex-wrap gap-1"
				onsubmit={(event) => {
					event.preventDefault();
					more = [
						...more,
						{
							kind: 'instrument',
							name: newName.trim() || 'One more instrument',
							parts: newParts,
							bytesPerSecond: 400,
							tight: false
						}
					];
					newName = '';
				}}
			>
				<input
					class="input w-36 input-xs"
					aria-label="Name of a supposed instrument"
					placeholder="One more instrument"
					maxlength="60"
					bind:value={newName}
				/>
				<input
					class="input w-14 input-xs"
					type="number"
					min="1"
					max="16"
					aria-label="Its parts"
					bind:value={newParts}
				/>
				<button class="btn btn-xs">Suppose it</button>
			</form>
		</section>
	</div>
</div>
{#if problem}<div class="mt-4"><ProblemNote {problem} /></div>{/if}
{#if planner.plans.length > 1}
	<div class="mt-5 flex flex-wrap gap-1" role="group" aria-label="Plans of this visit">
		{#each planner.plans as entry (entry.id)}
			<button
				class={['btn btn-xs', entry === kept && 'btn-primary']}
				aria-pressed={entry === kept}
				onclick={() => (shown = entry.id)}>{entry.id}. {entry.title}</button
			>
		{/each}
	</div>
{/if}
<div class="mt-4">
	{#if planner.running && planner.draft}
		<PlanResult kept={planner.draft} current={false} draft onApply={() => Promise.resolve(false)} />
	{:else if kept}
		<PlanResult {kept} {current} onApply={(changes, says) => changeRig(changes, says, data.revision)} />
		{#if planner.plans.length > 1}<ComparePlans plans={planner.plans} />{/if}
	{:else if !planner.running}
		<p>
			The planner gives every device an out, a return, a channel and a device ID: everybody placed first, then
			tight timing kept apart, then as little as possible to re-plug, then the load spread. It says when a
			plan is proved the best there is. Nothing is changed until you tick its list.
		</p>
	{/if}
</div>
