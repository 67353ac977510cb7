<script lang="ts">
	import { tick } from 'svelte';
	import { neighbour, roving, spotsOf } from './roving';
	import { dndzone, TRIGGERS, type DndEvent } from 'svelte-dnd-action';
	import type { BankEntry, BankRemark } from '../core/drawer';
	import { slotLabel, type ProfileArea } from '../core/profile';

	/** A sound that is dragged in from the search. */
	interface Item {
		id: string;
		entry: BankEntry | null;
	}
	interface Props {
		area: ProfileArea;
		entries: readonly (BankEntry | null)[];
		remarks: readonly BankRemark[];
		/** The slot that is worked on. */
		current: number;
		onMove: (from: number, to: number) => void;
		onInsert: (at: number, entry: BankEntry) => void;
		onClear: (at: number) => void;
		onRename: (at: number, name: string) => boolean;
		onSong: (at: number, song: string) => void;
	}
	let {
		area,
		entries,
		remarks,
		current = $bindable(),
		onMove,
		onInsert,
		onClear,
		onRename,
		onSong
	}: Props = $props();
	let editing = $state<{ at: number; what: 'name' | 'song'; text: string } | null>(null);
	let sheet: HTMLElement | undefined = $state();
	const items = $derived(entries.map((entry, i): Item => ({ id: `slot ${i}`, entry })));
	/** What is shown while something is dragged over the sheet. */
	let dragged = $state.raw<Item[] | null>(null);
	const toldOf = (at: number) => remarks.filter(({ index }) => index === at);

	const focus = (at: number) => {
		current = Math.min(entries.length - 1, Math.max(0, at));
		// Before the next key comes, however soon that is.
		void tick().then(() => sheet?.querySelector<HTMLElement>(`[data-slot="${current}"]`)?.focus());
	};

	function press(event: KeyboardEvent, at: number) {
		const cells = [...(sheet?.querySelectorAll('[data-slot]') ?? [])];
		const to = event.altKey ? neighbour(spotsOf(cells), at, event.key) : null;
		if (to !== null) {
			onMove(at, to);
			focus(to);
		} else if (event.key === 'Delete' || event.key === 'Backspace') onClear(at);
		else if (event.key === 'F2' || (event.key === 'Enter' && entries[at])) edit(at, 'name');
		else if (event.key === 'n' && entries[at]) edit(at, 'song');
		else return;
		event.preventDefault();
		event.stopPropagation();
	}

	function edit(at: number, what: 'name' | 'song') {
		const entry = entries[at];
		if (entry) editing = { at, what, text: entry[what] };
	}

	function finish(keep: boolean) {
		if (!editing) return;
		const { at, what, text } = editing;
		if (keep) {
			if (what === 'song') onSong(at, text.trim());
			else if (!onRename(at, text)) return;
		}
		editing = null;
		focus(at);
	}

	function consider({ detail }: CustomEvent<DndEvent<Item>>) {
		dragged = detail.items;
	}

	function drop({ detail }: CustomEvent<DndEvent<Item>>) {
		const { id, trigger } = detail.info;
		const at = detail.items.findIndex((item) => item.id === id);
		const item = detail.items[at];
		dragged = null;
		if (trigger === TRIGGERS.DROPPED_INTO_ZONE && item) {
			const from = Number(/^slot (\d+)$/.exec(id)?.[1] ?? -1);
			if (from >= 0) onMove(from, at);
			else if (item.entry) onInsert(Math.min(at, entries.length - 1), item.entry);
			focus(at);
		}
	}
	const autofocus = (input: HTMLInputElement) => {
		input.focus();
		input.select();
	};
</script>

<div bind:this={sheet} {@attach roving('[data-slot]')}>
	<ul
		class="bank"
		aria-label={`Slots of ${area.name}`}
		use:dndzone={{
			items: dragged ?? items,
			type: 'sounds',
			flipDurationMs: 120,
			autoAriaDisabled: true,
			dropTargetStyle: {},
			zoneItemTabIndex: -1
		}}
		onconsider={consider}
		onfinalize={drop}
	>
		{#each dragged ?? items as item, at (item.id)}
			{@const { entry } = item}
			{@const told = toldOf(at)}
			<li class={['cell', at === current && 'is-current', !entry && 'is-free']}>
				<span class="font-mono text-xs text-slate" aria-hidden="true">{slotLabel(area.labels, at)}</span>
				{#if editing?.at === at && entry}
					<input
						class="input w-full input-xs"
						aria-label={editing.what === 'name'
							? `Name in slot ${slotLabel(area.labels, at)}`
							: `Song of slot ${slotLabel(area.labels, at)}`}
						bind:value={editing.text}
						{@attach autofocus}
						onkeydown={(event) => {
							event.stopPropagation();
							if (event.key === 'Enter') finish(true);
							if (event.key === 'Escape') finish(false);
						}}
						onblur={() => finish(true)}
					/>
				{:else}
					<button
						class="sound"
						data-slot={at}
						aria-current={at === current ? 'true' : undefined}
						onfocus={() => (current = at)}
						ondblclick={() => edit(at, 'name')}
						onkeydown={(event) => press(event, at)}
					>
						<span class="sr-only">Slot {slotLabel(area.labels, at)}:</span>
						<span class="truncate">{entry ? entry.name || '—' : 'keep'}</span>
						{#if entry?.song}<span class="song truncate"><span class="sr-only">for</span> {entry.song}</span
							>{/if}
						{#each told as { kind } (kind)}<span class="told"
								><span aria-hidden="true">{kind === 'used twice' ? '2×' : '≠'}</span> {kind}</span
							>{/each}
					</button>
				{/if}
			</li>
		{/each}
	</ul>
</div>

<style>
	.bank {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(9.5rem, 1fr));
		gap: 4px;
	}
	.cell {
		display: grid;
		grid-template-columns: 2rem minmax(0, 1fr);
		align-items: start;
		gap: 4px;
		min-height: 2.6rem;
		padding: 3px 5px;
		border: 1px solid var(--color-line);
		border-radius: 3px;
		background: var(--color-ground);
	}
	.cell.is-free {
		border-style: dashed;
		background: transparent;
	}
	.cell.is-current {
		border-color: var(--color-chosen);
		box-shadow: inset 3px 0 0 var(--color-chosen);
	}
	.sound {
		display: flex;
		flex-direction: column;
		min-width: 0;
		min-height: 1.6rem;
		text-align: left;
		line-height: 1.2;
	}
	.is-free .sound {
		font-style: italic;
		color: var(--color-slate);
	}
	.song {
		font-size: 0.8rem;
		color: var(--color-slate);
	}
	.told {
		font-size: 0.75rem;
		color: var(--color-rust);
	}
</style>
