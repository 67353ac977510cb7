<script lang="ts">
	import StateMark from '../StateMark.svelte';
	import type { OpenSet } from './open-set.svelte';
	import type { SceneOutcome } from './scene-sender.svelte';
	import { SENT_MARKS } from './zone-words';

	/** What became of a scene at each instrument, and what was not sent. */
	let { open, outcome }: { open: OpenSet; outcome: SceneOutcome } = $props();
</script>

<ul>
	{#each outcome.rows as { instrument, state, says } (instrument)}
		<li class="flex items-start gap-2">
			<span class="mt-1"><StateMark state={SENT_MARKS[state].mark} /></span>
			<span
				><span class="plate">{`${open.nameOf(instrument)}: ${SENT_MARKS[state].word}.`}</span>
				{says}</span
			>
		</li>
	{/each}
	{#each outcome.unsent as says (says)}
		<li class="flex items-start gap-2">
			<span class="mt-1"><StateMark state="attention" /></span>
			<span>{says}</span>
		</li>
	{/each}
</ul>
