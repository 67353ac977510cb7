<script lang="ts">
	import type { Hop } from '$lib/core/rig';

	/** One line from key to voice: a stop for each hop, its time, and what silences it. */
	let { hops, from, to, label }: { hops: Hop[]; from: string; to: string; label: string } = $props();
	const ms = (value: number) => `${value < 0.1 && value > 0 ? value.toFixed(3) : value.toFixed(2)} ms`;
	const shown = $derived(hops.filter(({ kind }) => kind !== 'ear'));
	const ear = $derived(hops.find(({ kind }) => kind === 'ear') ?? null);
	const firstStop = $derived(hops.findIndex(({ stop }) => stop !== null));
</script>

<ol class="path" aria-label={label}>
	<li class="stop">
		<span class="dot" aria-hidden="true"></span><span class="what plate">{from}</span><span
			class="when figures">0 ms</span
		>
	</li>
	{#each shown as hop, i (i)}
		<li class={['stop', hop.stop && 'is-stopped', firstStop >= 0 && i > firstStop && 'is-beyond']}>
			<span class="dot" aria-hidden="true"></span>
			<span class="what"
				>{hop.says}{hop.kind !== 'cable' && hop.channel > 0 ? ` · ch ${hop.channel}` : ''}</span
			>
			<span class="when figures"
				>{hop.stop ? '' : `${ms(hop.atMs)}${hop.delayMs > 0 ? ` (+${ms(hop.delayMs)})` : ''}`}</span
			>
			{#if hop.stop}<span class="why">Stops here: {hop.stop.says}</span>{/if}
		</li>
	{/each}
	<li class={['stop', ear?.stop && 'is-stopped', firstStop >= 0 && 'is-beyond']}>
		<span class="dot is-end" aria-hidden="true"></span><span class="what plate">{to}</span>
		<span class="when figures">{firstStop < 0 ? ms(hops.at(-1)?.atMs ?? 0) : 'silent'}</span>
		{#if ear?.stop}<span class="why">Stops here: {ear.stop.says}</span>{/if}
	</li>
</ol>

<style>
	.path {
		display: flex;
		flex-wrap: wrap;
		row-gap: 10px;
		padding: 6px 0;
	}
	.stop {
		position: relative;
		display: flex;
		flex-direction: column;
		min-width: 96px;
		max-width: 185px;
		flex: 1 1 120px;
		padding: 16px 10px 0 0;
		font-size: 0.85rem;
		line-height: 1.25;
	}
	.stop::before {
		content: '';
		position: absolute;
		top: 6px;
		left: 0;
		right: 0;
		border-top: 2px solid var(--color-pine);
	}
	.stop:last-child::before {
		display: none;
	}
	.stop.is-stopped::before,
	.stop.is-beyond::before {
		border-top: 2px dashed var(--color-slate);
	}
	.dot {
		position: absolute;
		top: 1px;
		left: 0;
		width: 12px;
		height: 12px;
		border: 2px solid var(--color-pine);
		border-radius: 50%;
		background: var(--color-sheet);
	}
	.dot.is-end {
		background: var(--color-pine);
	}
	.is-stopped .dot {
		border-radius: 2px;
		border-color: var(--color-rust);
		background: var(--color-rust);
	}
	.is-beyond .dot {
		border-color: var(--color-slate);
		background: var(--color-sheet);
	}
	.when {
		color: var(--color-slate);
	}
	.why {
		color: var(--color-rust);
	}
</style>
