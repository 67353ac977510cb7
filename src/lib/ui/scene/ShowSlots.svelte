<script lang="ts">
	import { inInstrument, type Instrument, type SlotSeen } from '$lib/core/scene';
	import { Doing } from '../doing.svelte';
	import { count } from '../words';
	import type { OpenSet } from './open-set.svelte';

	/** Which slots of an instrument may be written for a set. */
	let { open, instrument }: { open: OpenSet; instrument: Instrument } = $props();
	const id = $props.id();
	const asking = new Doing();
	let slots = $state.raw<SlotSeen[] | null>(null);
	const noted = $derived(instrument.showSlots);
	const keyOf = ({ area, index }: { area: string; index: number }) => JSON.stringify([area, index]);
	const chosen = (end: 0 | 1) => (noted ? keyOf({ area: noted.area, index: noted.slots[end] }) : '');

	const ask = () =>
		slots ??
		asking.run(async () => {
			slots = await open.slotsOf(instrument.id);
		});
	/** The other end moves along where it would lie on the wrong side, or in another area. */
	function choose(end: 0 | 1, key: string) {
		const slot = slots?.find((each) => keyOf(each) === key);
		return open.edit(`${instrument.name}: slots for the show`, (set) =>
			inInstrument(set, instrument, ({ showSlots }) => {
				if (!slot) return { showSlots: null };
				const other = showSlots?.area === slot.area ? showSlots.slots[1 - end] : slot.index;
				const [from, to] = end === 0 ? [slot.index, other] : [other, slot.index];
				const pair: [number, number] = from <= to ? [from, to] : [slot.index, slot.index];
				return { showSlots: { area: slot.area, slots: pair } };
			})
		);
	}
</script>

<details class="mt-1" ontoggle={(event) => event.currentTarget.open && void ask()}>
	<summary class="small-print cursor-pointer"
		>{noted
			? `A set may write ${count(noted.slots[1] - noted.slots[0] + 1, 'slot')}`
			: 'A set may write the slots that its scenes name'}<span class="sr-only"
			>{` of ${instrument.name}`}</span
		></summary
	>
	{#if asking.problem}<p role="alert" class="text-rust">
			{asking.problem.message}
			{asking.problem.remedy}
		</p>{:else if slots?.length === 0}<p class="small-print">
			No drawer says which slots its program changes select.
		</p>{:else if slots}
		<div class="mt-1 flex flex-wrap gap-3">
			{#each ['From', 'To'] as title, end (title)}
				<div class="field">
					<label for={`${id}-${title}`}>{title}</label>
					<select
						id={`${id}-${title}`}
						class="select w-52 select-sm"
						value={chosen(end as 0 | 1)}
						disabled={end === 1 && !noted}
						onchange={(event) => void choose(end as 0 | 1, event.currentTarget.value)}
					>
						{#if end === 0 || !noted}<option value="">{end === 0 ? 'those that its scenes name' : ''}</option
							>{/if}
						{#each slots as slot (keyOf(slot))}<option value={keyOf(slot)}
								>{slot.label}{slot.name ? ` · ${slot.name}` : ''}</option
							>{/each}
					</select>
				</div>
			{/each}
		</div>
		<p class="small-print">
			What a slot holds is kept before it is written. Sounds that the songs want and that are not there are
			loaded here.
		</p>
	{/if}
</details>
