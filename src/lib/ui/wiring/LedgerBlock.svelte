<script lang="ts">
	import Lock from '@lucide/svelte/icons/lock';
	import type { Block, LedgerRow } from '$lib/core/rig';

	/** A device on the ledger: a box over its channels, its name running on over what is free. */
	interface Props {
		entry: Block;
		row: LedgerRow;
		held: boolean;
		selected: boolean;
		onclick: () => void;
		onpointerdown: (event: PointerEvent) => void;
		onkeydown: (event: KeyboardEvent) => void;
	}
	let { entry, row, held, selected, onclick, onpointerdown, onkeydown }: Props = $props();
	const first = $derived(Math.max(1, entry.first));
	const wide = $derived(entry.span + Math.min(3, entry.room));
</script>

<button
	class={['block', entry.clash.length > 0 && 'is-clash', held && 'is-held', selected && 'is-selected']}
	style={`grid-column: ${first} / span ${wide}; grid-row: ${entry.lane + 1}; --own: ${(100 * entry.span) / wide}%`}
	data-block={entry.device.id}
	{onpointerdown}
	{onclick}
	{onkeydown}
	aria-pressed={selected}
	aria-label={`${entry.device.name}, ${entry.channels.length > 0 ? `channel ${entry.channels.join(', ')}` : 'no channel'} on ${row.name}${entry.hop > 1 ? `, ${entry.hop} deep in the chain` : ''}${entry.clash.length > 0 ? ', clash' : ''}${entry.locked ? ', locked' : ''}`}
>
	<span class="body" aria-hidden="true"></span>
	{#if entry.locked}<Lock size={11} aria-hidden="true" />{/if}
	{#if entry.hop > 1}<span class="hop" aria-hidden="true">↳</span>{/if}
	<span class="tag">{entry.device.name}</span>
</button>

<style>
	.block {
		position: relative;
		display: flex;
		align-items: center;
		gap: 3px;
		min-width: 0;
		padding: 0 3px;
		height: var(--lane);
		touch-action: none;
		font-size: 0.8rem;
		line-height: 1.2;
		cursor: grab;
		white-space: nowrap;
		z-index: 1;
	}
	/* What the block covers; its name may run on over free channels. */
	.body {
		background-color: var(--color-ground);
		border: 1px solid var(--color-slate);
		border-radius: 3px;
		position: absolute;
		inset: 0 auto 0 0;
		width: var(--own);
		z-index: -1;
	}
	.block.is-selected .body {
		border: 2px solid var(--color-chosen);
	}
	.block.is-held .body {
		border: 2px dashed var(--color-chosen);
	}
	.block.is-clash .body {
		border-color: var(--color-rust);
		background-image: repeating-linear-gradient(
			-45deg,
			transparent 0 5px,
			color-mix(in srgb, var(--color-rust) 34%, transparent) 5px 7px
		);
	}
	/* Stuck over the box like a label plate, and over its edge where the name is longer. */
	.tag {
		min-width: 0;
		padding: 0 3px;
		border-radius: 2px;
		background: var(--color-ground);
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.hop {
		color: var(--color-slate);
	}
</style>
