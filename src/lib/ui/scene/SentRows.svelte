<script lang="ts">
	import type { SentTo } from '$lib/core/scene';
	import StateMark from '../StateMark.svelte';
	import type { OpenSet } from './open-set.svelte';
	import { SENT_MARKS } from './zone-words';

	/** What became of a scene at each instrument that it was sent to. */
	let { open, rows }: { open: OpenSet; rows: readonly SentTo[] } = $props();
</script>

<ul>
	{#each rows as { instrument, state, says } (instrument)}
		<li class="flex items-start gap-2">
			<span class="mt-1"><StateMark state={SENT_MARKS[state].mark} /></span>
			<span
				><span class="plate"
					>{`${open.instrument(instrument)?.name ?? instrument}: ${SENT_MARKS[state].word}.`}</span
				>
				{says}</span
			>
		</li>
	{/each}
</ul>
