<script lang="ts">
	import type { Snippet } from 'svelte';
	import type { PageGoal, PageGoalResult, PagePlan } from '$lib/core/control';
	import StateMark from '../StateMark.svelte';
	import { count, duration } from '../words';

	interface Props {
		plan: PagePlan;
		/** What the maker calls a page. */
		word: string;
		/** What stands in several places today. */
		doubles: readonly string[];
		children: Snippet;
	}
	/** What a plan of pages comes to: each goal with its proof, what has no place, and what changes. */
	let { plan, word, doubles, children }: Props = $props();
	const GOAL_WORDS: Record<PageGoal, string> = $derived({
		unplaced: 'Targets without a place',
		presses: `Presses to reach ${word}s in the set`,
		scattered: 'Further controls for the same function',
		pages: `${word[0].toUpperCase()}${word.slice(1)}s used`
	});
	const proofWords = ({ value, bound, proof }: PageGoalResult): string =>
		proof === 'counted'
			? 'no layout has fewer, by counting'
			: proof === 'twice'
				? 'nothing better exists, looked for in two ways'
				: bound < value
					? `not proved: between ${bound} and ${value}`
					: 'not proved: a goal before it is open';
</script>

<section class="mt-5" aria-labelledby="plan-result">
	<h2 id="plan-result">The plan</h2>
	<p class="mt-1 flex items-baseline gap-1.5">
		<StateMark state={plan.proved ? 'verified' : 'attention'} size={11} />
		{plan.proved
			? 'Proved for all four goals, one after another.'
			: plan.cancelled
				? 'Stopped: this is the best that was found until then.'
				: 'The best that was found in the time, not proved for every goal.'}
		<span class="small-print">{duration(plan.tookMs)}</span>
	</p>
	<div class="overflow-x-auto">
		<table class="ledger-table mt-2">
			<thead
				><tr
					><th scope="col">Goal, in this order</th><th scope="col" class="text-right">Value</th><th
						scope="col">Proof</th
					></tr
				></thead
			>
			<tbody>
				{#each plan.goals as result (result.goal)}
					<tr
						><th scope="row">{GOAL_WORDS[result.goal]}</th><td class="text-right tabular-nums"
							>{result.value}</td
						><td>{proofWords(result)}</td></tr
					>
				{/each}
			</tbody>
		</table>
	</div>
	{#if plan.unplaced.length > 0}
		<h3 class="mt-3">Without a place</h3>
		<ul class="list-inside list-disc">
			{#each plan.unplaced as { target, why } (target)}<li><strong>{target}</strong>: {why}</li>{/each}
		</ul>
		<p class="small-print">Taken over, they stand on no {word}; one step brings them back.</p>
	{/if}
	{#if doubles.length > 0}<p class="mt-3">
			In one place instead of several, as the first of them is now: {doubles.join(', ')}.
		</p>{/if}
	<details class="mt-3" open={plan.changes.length > 0 && plan.changes.length <= 12}>
		<summary
			>{plan.changes.length === 0 ? 'Nothing changes place' : count(plan.changes.length, 'change')}</summary
		>
		<ol class="mt-1 list-inside list-decimal">
			{#each plan.changes as says (says)}<li>{says}</li>{/each}
		</ol>
	</details>
	<div class="mt-3">{@render children()}</div>
</section>
