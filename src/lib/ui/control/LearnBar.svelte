<script lang="ts">
	import {
		beforeSweep,
		controlName,
		learntBy,
		openOf,
		unheard,
		keepSweep,
		type SweepQuestion
	} from '$lib/core/control';
	import { desk } from '$lib/hardware/desk.svelte';
	import AskBar from './AskBar.svelte';
	import type { OpenMap } from './open-map.svelte';
	import type { Teaching } from './teaching.svelte';
	import { count } from '../words';

	/** What is asked of the hand while a page is learnt or walked back over, and what ends it. */
	let { open, teaching, page }: { open: OpenMap; teaching: Teaching; page: number } = $props();
	const ANSWERS: Record<SweepQuestion['answers'][number], string> = {
		'not-this': 'No, that was a slip',
		'one-was-missed': 'One was missed',
		'it-is-right': 'It is right'
	};
	const word = $derived(open.map.surface.pages.word);
	const found = $derived(teaching.sweep ? learntBy(teaching.sweep, page, teaching.world) : []);
	const doubts = $derived(
		found.flatMap(({ control, doubt }) =>
			doubt ? [`${controlName(open.map.surface, control)}: ${doubt}`] : []
		)
	);
	const silent = $derived(unheard(open.map, page));

	async function keep() {
		const { sweep, world } = teaching;
		if (!sweep) return;
		const kept = await open.edit(`Learnt ${count(found.length, 'control')} of ${word} ${page}`, (map) =>
			keepSweep(map, page, sweep, world)
		);
		if (kept) teaching.walkBack(open.map, page, world);
	}
	async function noteWalk() {
		const at = new Date().toISOString();
		const kept = await open.edit(`Walked ${word} ${page}`, (map) => [
			{
				path: ['walked'],
				value: [...map.walked.filter((walked) => walked.page !== page), { page, at, world: teaching.world }]
			}
		]);
		if (kept) teaching.rest();
	}
</script>

<AskBar label={teaching.at === 'learn' ? 'Learning' : 'Walking back'}>
	{#if teaching.sweep}
		{@const { sweep } = teaching}
		<p role="status" class="text-lg">{sweep.question?.says ?? sweep.says}</p>
		{#if sweep.question}
			<div class="mt-2 flex flex-wrap gap-2">
				{#each sweep.question.answers as answer (answer)}<button
						class={['btn btn-sm', answer === 'not-this' && 'btn-primary']}
						onclick={() => teaching.answer(answer)}>{ANSWERS[answer]}</button
					>{/each}
			</div>
		{:else if sweep.before === null}
			<ul class="small-print mt-1 list-inside list-disc">
				{#each beforeSweep(open.map.surface, page, sweep.wanted) as says (says)}<li>{says}</li>{/each}
			</ul>
		{/if}
		{#if doubts.length > 0}<p class="small-print mt-1">Not decided yet. {doubts.slice(-3).join(' ')}</p>{/if}
		<div class="mt-2 flex flex-wrap items-center gap-2">
			{#if found.length > 0}<button
					class={['btn btn-sm', sweep.next >= sweep.wanted.length && 'btn-primary']}
					disabled={open.doing.busy}
					onclick={keep}
					>{openOf(sweep).length === 0
						? `Keep all ${found.length}, then walk back`
						: `Keep these ${found.length}, then walk back`}</button
				>{/if}
			{#if sweep.before !== null}<button class="btn btn-sm" onclick={teaching.back}>Undo the last</button
				>{/if}
			{#if sweep.next > 0 && sweep.taken.at(-1) === null}<button class="btn btn-sm" onclick={teaching.insert}
					>One was missed before it</button
				>{/if}
			{#if sweep.next > 0}<button class="btn btn-sm" onclick={teaching.remove}>The last was too many</button
				>{/if}
			<button class="btn btn-ghost btn-sm" onclick={() => teaching.rest()}>Stop, keep nothing</button>
			<span class="small-print"
				>{sweep.wanted.length - openOf(sweep).length} of {sweep.wanted.length} heard</span
			>
		</div>
	{:else if teaching.walk && teaching.end}
		{@const spoke = teaching.walk.controls.filter(({ spoke: times }) => times > 0).length}
		<p role="status" class="text-lg">
			{#if teaching.walk.controls.length === 0}Nothing is learnt of {word}
				{page} yet: there is nothing to walk.
			{:else if teaching.end.walked && silent.length === 0}Each of the {teaching.walk.controls.length} spoke for
				itself.
			{:else if spoke < teaching.walk.controls.length}Touch every control of {word}
				{page} once, in any order: {spoke} of {teaching.walk.controls.length} heard.
			{:else}All were heard, and something is not right.{/if}
		</p>
		{#if spoke === teaching.walk.controls.length || teaching.walk.strangers.length > 0}
			<ul class="mt-1 list-inside list-disc">
				{#each teaching.end.faults as says (says)}<li>{says}</li>{/each}
			</ul>
		{/if}
		{#if silent.length > 0 && teaching.walk.controls.length > 0}<p class="mt-1">
				Not learnt, though the strip uses {silent.length === 1 ? 'it' : 'them'}: {silent.join(', ')}. The walk
				of this {word} is not whole without.
			</p>{/if}
		<div class="mt-2 flex flex-wrap gap-2">
			{#if teaching.end.walked && teaching.walk.controls.length > 0 && silent.length === 0}<button
					class="btn btn-primary btn-sm"
					disabled={open.doing.busy}
					onclick={noteWalk}>Note the walk{teaching.world === 'bench' ? ' (on the bench)' : ''}</button
				>{/if}
			<button class="btn btn-sm" onclick={() => teaching.walkBack(open.map, page, desk.world)}
				>Begin the walk again</button
			>
			<button class="btn btn-ghost btn-sm" onclick={() => teaching.rest()}>Stop</button>
		</div>
	{/if}
</AskBar>
