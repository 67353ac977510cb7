<script lang="ts">
	import TroubleList from '../TroubleList.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** What is wrong with a map, each with what puts it right. */
	let { open }: { open: OpenMap } = $props();
	const WORDS = {
		error: { word: 'Wrong', mark: 'danger' },
		warning: { word: 'Look at this', mark: 'attention' },
		note: { word: 'Note', mark: 'quiet' }
	} as const;
</script>

<h2 class="mt-6">Checks</h2>
{#if open.troubles.length === 0}
	<p class="mt-1">The checks find nothing. What the devices make of it, only the ear tells.</p>
{:else}
	<TroubleList
		troubles={open.troubles}
		words={WORDS}
		busy={open.doing.busy}
		mend={({ says, edits }) => open.edit(says, () => edits)}
	/>
{/if}
