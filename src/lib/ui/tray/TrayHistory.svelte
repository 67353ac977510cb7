<script lang="ts">
	import { notices } from '../notices.svelte';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';

	/** What happened in this tab, newest first, each with its undo. */
	const MARKS = { good: 'verified', bad: 'danger', plain: 'quiet' } as const;
</script>

<div class="overflow-y-auto px-4 py-3">
	{#if notices.all.length === 0}<p>Nothing has happened in this tab yet.</p>{/if}
	<ol aria-label="What happened">
		{#each notices.all as told (told.key)}
			<li class="flex items-baseline gap-3 border-b border-line py-1">
				<StateMark state={MARKS[told.kind]} size={11} />
				<span class="min-w-0 flex-1">{told.says}</span>
				<span class="small-print whitespace-nowrap"><When at={told.at} /></span>
				{#if told.undone === 'done'}<span class="small-print">undone</span>
				{:else if told.undone === 'under way'}<span class="small-print">being undone …</span>
				{:else if told.undo}
					{#if told.undone === 'failed'}<span class="text-rust">it could not be undone</span>{/if}
					<button
						class="btn btn-xs"
						aria-label={`${told.undo.title}: ${told.says}`}
						onclick={() => notices.undo(told)}>{told.undo.title}</button
					>
				{/if}
			</li>
		{/each}
	</ol>
	<p class="mt-2"><a class="link-quiet" href="/transfers">Everything that came in and went out</a></p>
</div>
