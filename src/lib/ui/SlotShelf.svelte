<script lang="ts">
	import type { Comparison, SlotChange, SlotState } from '$lib/core/drawer';
	import type { StoredLine } from '$lib/core/contact';
	import type { Device } from '$lib/core/gear';
	import type { Profile } from '$lib/core/profile';
	import { nextTask } from './next-task.svelte';
	import { roving } from './roving';
	import { count } from './words';

	interface Props {
		areas: { id: string; name: string }[];
		slots: { area: string; index: number; label: string; name: string | null }[];
		changes: Comparison | null;
		/** Keys `area:index` of the slots that are ticked. */
		chosen: string[];
		choosable: boolean;
		/** A slot to open with. */
		focus: string | null;
		versionId: string;
		device: Device;
		line: StoredLine;
		profile: Profile | null;
	}
	let {
		areas,
		slots,
		changes,
		chosen = $bindable(),
		choosable,
		focus,
		versionId,
		device,
		line,
		profile
	}: Props = $props();

	const MARKS: Record<SlotState, { glyph: string; word: string }> = {
		same: { glyph: '=', word: 'same' },
		edited: { glyph: '~', word: 'edited' },
		renamed: { glyph: 'A', word: 'renamed' },
		moved: { glyph: '→', word: 'moved from' },
		swapped: { glyph: '⇄', word: 'swapped with' },
		copied: { glyph: '+', word: 'copied from' },
		new: { glyph: '*', word: 'new' }
	};
	// svelte-ignore state_referenced_locally
	let open = $state<string | null>(focus);
	let onlyChanged = $state(false);
	/** So many slots come with the page. */
	const AT_ONCE = 16;
	// svelte-ignore state_referenced_locally
	const drawing = nextTask(slots.length <= AT_ONCE);
	const key = (slot: { area: string; index: number }) => `${slot.area}:${slot.index}`;
	const byKey = $derived(new Map((changes?.slots ?? []).map((change) => [key(change), change])));
	const changed = $derived((changes?.slots ?? []).filter(({ state }) => state !== 'same'));
	const tally = $derived(
		Object.entries(MARKS)
			.map(([state, mark]) => ({
				word: mark.word.replace(/ (from|with)$/, ''),
				n: changed.filter((change) => change.state === state).length
			}))
			.filter(({ n }) => n > 0)
	);
	const opened = $derived(open ? (byKey.get(open) ?? null) : null);

	function stateOf(change: SlotChange | undefined): string {
		if (!change) return '';
		const from = change.from ? ` ${change.from.label}` : '';
		return `${MARKS[change.state].word}${from}${change.state !== 'edited' && change.change && change.change.parameters.length > 0 ? ', edited' : ''}`;
	}

	function toggle(id: string) {
		chosen = chosen.includes(id) ? chosen.filter((entry) => entry !== id) : [...chosen, id];
	}

	/** The space bar ticks a slot. */
	function press(event: KeyboardEvent) {
		const { key: slot } = (event.target as HTMLElement).dataset;
		if (event.key !== ' ' || !choosable || !slot) return;
		event.preventDefault();
		toggle(slot);
	}
</script>

<div class="mt-6 flex flex-wrap items-center gap-x-4 gap-y-2">
	{#if changes}
		<p role="status">
			{#if changed.length === 0}Every slot is the same.{:else}<strong
					>{count(changed.length, 'slot')} differ{changed.length === 1 ? 's' : ''}:</strong
				>
				{tally.map(({ word, n }) => `${n} ${word}`).join(', ')}.{/if}
			{#if changes.gone.length > 0}Gone: {changes.gone
					.map(({ label, name }) => `${name ?? 'unnamed'} (was ${label})`)
					.join(', ')}.{/if}
			{#if changes.onlyBefore + changes.onlyAfter > 0}<span class="small-print"
					>{changes.onlyBefore + changes.onlyAfter} slots are in one of the two only.</span
				>{/if}
		</p>
		<label class="flex items-center gap-2"
			><input type="checkbox" class="checkbox checkbox-sm" bind:checked={onlyChanged} /> Only what differs</label
		>
		{#if choosable && changed.length > 0}<button
				class="btn btn-xs"
				onclick={() => (chosen = changed.map(key))}>Choose the {changed.length} that differ</button
			>{/if}
	{/if}
	{#if choosable && chosen.length > 0}<button class="btn btn-xs" onclick={() => (chosen = [])}
			>Choose none</button
		>{/if}
	{#if choosable && chosen.length === 0}<span class="small-print"
			>Tick slots (space bar) to restore just these.</span
		>{/if}
</div>

{#if open}
	{#await Promise.all( [import('./ChangeDetails.svelte'), import('./SlotSheet.svelte')] ) then [{ default: ChangeDetails }, { default: SlotSheet }]}
		{#if opened}<ChangeDetails change={opened} />{/if}
		<SlotSheet
			{versionId}
			slot={open}
			{device}
			{line}
			{profile}
			close={() => (open = null)}
			show={(slot) => (open = slot)}
		/>
	{:catch}
		<p class="mt-3" role="alert">
			The page of this slot did not come: the app does not answer. Open it again.
		</p>
	{/await}
{/if}

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div onkeydown={press} {@attach roving('button.cell')}>
	{#each areas as area (area.id)}
		{@const here = (drawing.due ? slots : slots.slice(0, AT_ONCE)).filter(
			(slot) => slot.area === area.id && (!onlyChanged || !changes || byKey.get(key(slot))?.state !== 'same')
		)}
		{#if here.length > 0}
			<section aria-label={area.name} class="mt-3">
				<h2 class="mb-1">{area.name}</h2>
				<ul class="shelf">
					{#each here as slot (key(slot))}
						{@const change = byKey.get(key(slot))}
						<li
							class={[
								'slot',
								change && change.state !== 'same' && 'differs',
								open === key(slot) && 'is-open'
							]}
						>
							{#if choosable}<input
									type="checkbox"
									class="checkbox checkbox-xs"
									tabindex={-1}
									aria-label={`Choose ${slot.label} ${slot.name ?? ''}`}
									checked={chosen.includes(key(slot))}
									onchange={() => toggle(key(slot))}
								/>{/if}
							<button
								class="cell"
								data-key={key(slot)}
								aria-expanded={open === key(slot)}
								onclick={() => (open = open === key(slot) ? null : key(slot))}
							>
								<span class="slot-label">{slot.label}</span>
								<span class="slot-name">{slot.name ?? (change ? '' : area.name)}</span>
								{#if change && change.state !== 'same'}<span class="slot-state"
										><b>{MARKS[change.state].glyph}</b> {stateOf(change)}</span
									>{/if}
							</button>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
	{/each}
</div>

<style>
	.shelf {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(148px, 1fr));
		border-top: 1px solid var(--color-line);
		border-left: 1px solid var(--color-line);
	}
	.slot {
		display: flex;
		align-items: flex-start;
		gap: 6px;
		min-width: 0;
		padding: 3px 6px;
		border-right: 1px solid var(--color-line);
		border-bottom: 1px solid var(--color-line);
	}
	.slot > input {
		margin-top: 4px;
	}
	.slot.differs {
		background: var(--color-ground);
		box-shadow: inset 3px 0 var(--color-slate);
	}
	.slot.is-open {
		outline: 2px solid var(--color-chosen);
		outline-offset: -2px;
	}
	.cell {
		display: grid;
		grid-template-columns: auto 1fr;
		column-gap: 6px;
		align-items: baseline;
		flex: 1;
		min-width: 0;
		text-align: left;
		cursor: pointer;
	}
	.slot-label {
		font: 500 0.75rem var(--font-mono);
		color: var(--color-slate);
	}
	.slot-name {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.slot-state {
		grid-column: 1 / -1;
		font-size: 0.8rem;
	}
</style>
