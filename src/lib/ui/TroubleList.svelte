<script lang="ts" generics="Severity extends string">
	import type { Edit } from '$lib/core/edit';
	import StateMark, { type Mark } from './StateMark.svelte';

	interface Cure {
		says: string;
		/** None where only a hand can do it. */
		edits: Edit[];
	}
	interface Props {
		troubles: readonly { rule: string; severity: Severity; says: string; cure: Cure }[];
		words: Record<Severity, { word: string; mark: Mark }>;
		busy: boolean;
		mend: (cure: Cure) => unknown;
	}
	/** What is wrong with a document, each with what puts it right. */
	let { troubles, words, busy, mend }: Props = $props();
</script>

<ul class="mt-2 flex flex-col gap-2">
	{#each troubles as { rule, severity, says, cure }, i (`${rule} ${i}`)}
		<li data-rule={rule} class="flex items-start gap-2">
			<span class="mt-1"><StateMark state={words[severity].mark} /></span>
			<div class="min-w-0 flex-1">
				<p><span class="plate">{words[severity].word}:</span> {says}</p>
				{#if cure.edits.length > 0}<button
						class="btn mt-1 h-auto py-1 btn-xs"
						disabled={busy}
						onclick={() => mend(cure)}>{cure.says.replace(/\.$/, '')}</button
					>
				{:else}<p class="small-print">{cure.says}</p>{/if}
			</div>
		</li>
	{/each}
</ul>
