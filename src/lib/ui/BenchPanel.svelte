<script lang="ts">
	import { Doing } from './doing.svelte';
	import { untrack } from 'svelte';
	import type { Fault } from '$lib/core/bench';
	import type { PanelAction, PanelState } from '$lib/hardware/bench-room';
	import { desk } from '$lib/hardware/desk.svelte';
	import FaultList from './FaultList.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import { refresh } from './refresh';

	/** The front panel of a simulated device. */
	let { unitId, withFaults = false }: { unitId: string; withFaults?: boolean } = $props();
	let panel = $state.raw<PanelState | null>(null);
	const doing = new Doing();
	let parameter = $state('');
	const chosen = $derived(
		panel?.program.parameters.find(({ id }) => id === parameter) ?? panel?.program.parameters[0]
	);

	/** One after another: what a panel shows is never older than what was done at it last. */
	let before: Promise<unknown> = Promise.resolve();
	const show = (work: () => Promise<PanelState>) =>
		(before = before.then(() => doing.run(async () => (panel = await work()))));
	/** Keys that are pressed and not yet dealt with: what is typed meanwhile would be written over by what they show. */
	let pressed = $state(0);
	async function act(action: PanelAction): Promise<void> {
		pressed++;
		await show(async () => {
			const shown = await desk.act(unitId, action);
			if (action.act === 'edit' || action.act === 'rename') void refresh();
			return shown;
		});
		pressed--;
	}

	$effect(() => {
		void desk.panelTicks[unitId];
		const id = unitId;
		untrack(() => void show(() => desk.panel(id)));
	});
</script>

<div class="panel" role="group" aria-label={panel ? `Front panel of ${panel.name}` : 'Front panel'}>
	{#if doing.problem}<div class="mb-3"><ProblemNote problem={doing.problem} /></div>{/if}
	{#if panel}
		<div class="flex items-baseline justify-between gap-3">
			<h2 class="text-base">{panel.name}</h2>
			<span class="small-print">{panel.model}, simulated</span>
		</div>
		<div class="display mt-2" role="status" aria-label="Display">
			{#each panel.display as line, i (i)}<p class="truncate">{line || '\u00a0'}</p>{/each}
		</div>
		<div class={['mt-3 flex flex-wrap items-end gap-3', panel.updating && 'hidden']}>
			<div class="join">
				<button
					class="btn join-item btn-sm"
					aria-label="Slot before"
					onclick={() => act({ act: 'step', by: -1 })}>−</button
				>
				<button
					class="btn join-item btn-sm"
					aria-label="Next slot"
					onclick={() => act({ act: 'step', by: 1 })}>+</button
				>
			</div>
			{#each panel.switches as entry (entry.id)}
				{#if entry.kind === 'switch'}
					<label class="flex items-center gap-2 text-sm">
						<input
							type="checkbox"
							role="switch"
							class="toggle toggle-sm"
							checked={entry.value === 1}
							onchange={(event) =>
								act({ act: 'switch', id: entry.id, value: event.currentTarget.checked ? 1 : 0 })}
						/>
						{entry.label} <span class="w-6">{entry.value === 1 ? 'on' : 'off'}</span>
					</label>
				{:else}
					<label class="flex items-center gap-2 text-sm">
						{entry.label}
						<input
							type="number"
							class="input w-18 input-sm"
							min={entry.low}
							max={entry.high}
							value={entry.value}
							onchange={(event) =>
								act({ act: 'switch', id: entry.id, value: Number(event.currentTarget.value) })}
						/>
					</label>
				{/if}
			{/each}
		</div>
		<fieldset class={['mt-4', panel.updating && 'hidden']}>
			<legend class="text-sm">Edit {panel.program.label}</legend>
			<div class="mt-1 flex flex-wrap items-end gap-2">
				{#if panel.program.name !== null}<input
						class="input w-40 input-sm"
						aria-label="Name"
						readonly={pressed > 0}
						value={panel.program.name}
						onchange={(event) => act({ act: 'rename', name: event.currentTarget.value })}
					/>{/if}
				<select
					class="select w-44 select-sm"
					aria-label="Parameter"
					value={chosen?.id}
					onchange={(event) => (parameter = event.currentTarget.value)}
				>
					{#each panel.program.parameters as entry (entry.id)}<option value={entry.id}>{entry.name}</option
						>{/each}
				</select>
			</div>
			{#if chosen}
				<div class="mt-2 flex items-center gap-3">
					<input
						type="range"
						class="range flex-1 range-xs"
						aria-label={chosen.name}
						aria-valuetext={chosen.shown}
						min={chosen.low}
						max={chosen.high}
						value={chosen.raw}
						onchange={(event) =>
							act({ act: 'edit', parameter: chosen!.id, raw: Number(event.currentTarget.value) })}
					/>
					<output class="figures w-24 text-right">{chosen.shown}</output>
				</div>
			{/if}
		</fieldset>
		<div class="mt-4 flex flex-wrap gap-2">
			{#if panel.dumpButton}<button class="btn btn-primary btn-sm" onclick={() => act({ act: 'dump' })}
					>{panel.dumpButton}</button
				>{/if}
			<button class="btn btn-sm" onclick={() => act({ act: 'power' })}>Power off and on</button>
			{#if panel.takesSystems}<button class="btn btn-sm" onclick={() => act({ act: 'power', held: true })}
					>Off, and on in update mode</button
				>{/if}
			{#if panel.connected}
				<button class="btn btn-sm" onclick={() => act({ act: 'unplug' })}>Pull the cable</button>
			{:else}
				<button class="btn btn-primary btn-sm" onclick={() => act({ act: 'plug' })}>Put the cable back</button
				>
			{/if}
		</div>
		{#if withFaults}
			<FaultList
				faults={panel.faults}
				spoil={(fault: Fault) => act({ act: 'spoil', fault })}
				repair={(fault: Fault) => act({ act: 'repair', fault })}
				lost={panel.lostBytes}
			/>
		{:else if panel.faults.length > 0}
			<p class="mt-3 text-sm text-rust">
				{panel.faults.length}
				{panel.faults.length === 1 ? 'fault is' : 'faults are'} set on this unit.
				<a class="link-quiet" href="/transfers/bench">See the bench</a>.
			</p>
		{/if}
	{:else if !doing.problem}
		<p class="small-print">Switching on …</p>
	{/if}
</div>

<style>
	.panel {
		align-self: start;
		padding: 0.9rem 1rem 1rem;
		border: 1px solid var(--color-line);
		border-radius: var(--radius-box);
		background: var(--color-ground);
	}
	.display {
		padding: 0.45rem 0.7rem;
		border: 1px solid var(--color-slate);
		border-radius: 3px;
		background: var(--color-sheet);
		font: 500 0.95rem/1.45 var(--font-mono);
	}
</style>
