<script lang="ts">
	import { FAULT_TITLES, faultSchema, type Fault, type FaultKind } from '$lib/core/bench';

	interface Props {
		faults: Fault[];
		spoil: (fault: Fault) => void;
		repair: (fault: Fault) => void;
		lost: number;
	}
	/** What is made to go wrong on a unit, and how to set it. */
	let { faults, spoil, repair, lost }: Props = $props();
	let kind = $state<FaultKind | ''>('');
	let way = $state<'from device' | 'to device'>('from device');
	let once = $state(false);
	const oneWay = $derived(kind !== '' && !['slow memory', 'wrong device ID', 'slow answers'].includes(kind));

	function add(event: SubmitEvent) {
		event.preventDefault();
		if (kind === '') return;
		spoil(
			faultSchema.parse(oneWay ? { kind, way, ...(once || kind === 'unplug' ? { times: 1 } : {}) } : { kind })
		);
		kind = '';
	}

	const details = (fault: Fault) =>
		Object.entries(fault)
			.filter(([key]) => key !== 'kind')
			.map(([key, value]) =>
				key === 'way'
					? String(value)
					: `${key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)} ${value}`
			)
			.join(', ');
</script>

<section class="mt-5 border-t border-line pt-3" aria-label="Faults">
	<h3>What goes wrong on it</h3>
	{#if faults.length === 0}<p class="small-print">Nothing: cable, adapter and device are sound.</p>{/if}
	<ul class="my-2 space-y-1">
		{#each faults as fault, i (i)}
			<li class="flex items-center gap-3">
				<span class="flex-1"
					>{FAULT_TITLES[fault.kind]} <span class="small-print">{details(fault)}</span></span
				>
				<button class="btn btn-xs" onclick={() => repair($state.snapshot(fault))}>Repair: {fault.kind}</button
				>
			</li>
		{/each}
	</ul>
	{#if lost > 0}<p class="small-print">{lost} bytes were lost because its input ran over.</p>{/if}
	<form class="flex flex-wrap items-end gap-2" onsubmit={add}>
		<div class="field">
			<label for="fault">Add a fault</label>
			<select id="fault" class="select w-72 select-sm" bind:value={kind}>
				<option value="">Choose one</option>
				{#each Object.entries(FAULT_TITLES) as [id, title] (id)}<option value={id}>{title}</option>{/each}
			</select>
		</div>
		{#if oneWay}
			<div class="field">
				<label for="way">On the way</label>
				<select id="way" class="select w-36 select-sm" bind:value={way}
					><option>from device</option><option>to device</option></select
				>
			</div>
			<label class="flex items-center gap-2 pb-1.5"
				><input type="checkbox" class="checkbox checkbox-sm" bind:checked={once} /> once only</label
			>
		{/if}
		<button class="btn btn-sm" disabled={kind === ''}>Add</button>
	</form>
</section>
