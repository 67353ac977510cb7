<script lang="ts">
	import StateMark from '../StateMark.svelte';
	import type { OpenSet } from './open-set.svelte';
	import type { PanelEar } from './panel-ear.svelte';

	/** What hands chose at panels since the last scene, as instruments said it. */
	let { open, ear }: { open: OpenSet; ear: PanelEar } = $props();
</script>

<ul aria-label="Chosen at panels">
	{#each ear.chosen as { instrument, state, says } (instrument)}
		<li class="flex items-start gap-2">
			<span class="mt-1"><StateMark state={state === 'shown' ? 'verified' : 'attention'} /></span>
			<span><span class="plate">{`${open.nameOf(instrument)}, chosen at its panel:`}</span> {says}</span>
		</li>
	{/each}
</ul>
