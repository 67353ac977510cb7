<script lang="ts">
	import type { Snippet } from 'svelte';

	/** What is asked of the hand: it stays in sight while the strips are scrolled. */
	let { label, children }: { label: string; children: Snippet } = $props();
</script>

<section aria-label={label} class="bar">{@render children()}</section>

<style>
	.bar {
		position: sticky;
		z-index: 5;
		top: -1.25rem;
		margin-top: 0.5rem;
		padding: 0.6rem 0.9rem;
		border: 1px solid var(--color-line);
		border-left: 4px solid var(--color-going);
		background: var(--color-sheet);
	}
</style>
