<script lang="ts">
	import { page } from '$app/state';
	import type { ReadyItem } from '$lib/core/scene';
	import StateMark, { type Mark } from '../StateMark.svelte';
	import When from '../When.svelte';
	import { count } from '../words';
	import type { OpenSet } from './open-set.svelte';

	/** What the songs lack, each with one thing to do, then one word. */
	let { open }: { open: OpenSet } = $props();
	const ready = $derived(open.told.readiness);
	const WORDS: Record<ReadyItem['kind'], { word: string; mark: Mark }> = {
		missing: { word: 'Missing', mark: 'danger' },
		unknown: { word: 'Not known', mark: 'attention' },
		look: { word: 'Look at this', mark: 'attention' },
		hand: { word: 'By hand', mark: 'quiet' }
	};
	const stops = $derived(ready.items.filter(({ kind }) => kind === 'missing' || kind === 'unknown').length);
	const looks = $derived(ready.items.filter(({ kind }) => kind === 'look').length);
	const where = (scenes: readonly number[]) => (scenes.length > 0 ? ` (scene ${scenes.join(', ')})` : '');
</script>

<section aria-labelledby="ready-title">
	<h2 id="ready-title">Ready?</h2>
	<p role="status" class="mt-1">
		{#if ready.steps.length === 0}Nothing is in the set yet.{:else if ready.ready}
			<span class="plate">Ready</span>, by what is noted{#if ready.since}; the oldest reading of its sounds,
				{page.data.world === 'bench' ? 'on the bench' : 'over real ports'}, is from <When
					at={ready.since}
				/>{/if}.{looks > 0 ? ` ${count(looks, 'thing')} to look at.` : ''} What a hand did at a panel since, nobody
			heard.
		{:else}<span class="plate">Not ready:</span>
			{count(stops, 'thing')}
			{stops === 1 ? 'is' : 'are'} missing or not known.{/if}
	</p>
	{#if ready.steps.length > 0}<p class="small-print">
			Looked at: sounds and their loads, ways, load times, pauses; supplies, pedals and pages as far as Power,
			Feet and the maps note them.
		</p>{/if}
	<ul class="mt-2 flex flex-col gap-2">
		{#each ready.items as { kind, scenes, says, cure }, i (i)}
			<li class="flex items-start gap-2" data-ready={kind}>
				<span class="mt-1"><StateMark state={WORDS[kind].mark} /></span>
				<div class="min-w-0 flex-1">
					<p><span class="plate">{WORDS[kind].word}:</span> {says}{where(scenes)}</p>
					{#if cure.edits.length > 0}<button
							class="btn mt-1 h-auto py-1 btn-xs"
							disabled={open.doing.busy}
							onclick={() => void open.edit(cure.says, () => cure.edits)}>{cure.says}</button
						>{:else if cure.load}{@const { load } = cure}<button
							class="btn mt-1 h-auto py-1 btn-xs"
							disabled={open.doing.busy}
							onclick={() => void open.load(load)}>{cure.says}</button
						>{:else if kind !== 'hand'}<p class="small-print">{cure.says}</p>{/if}
				</div>
			</li>
		{/each}
	</ul>
</section>
