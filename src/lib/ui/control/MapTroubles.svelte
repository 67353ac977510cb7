<script lang="ts">
	import StateMark from '../StateMark.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** What is wrong with a map, each with what puts it right. */
	let { open }: { open: OpenMap } = $props();
	const WORDS = { error: 'Wrong', warning: 'Look at this', note: 'Note' } as const;
</script>

<h2 class="mt-6">Checks</h2>
{#if open.troubles.length === 0}
	<p class="mt-1">The checks find nothing. What the devices make of it, only the ear tells.</p>
{:else}
	<ul class="mt-2 flex flex-col gap-2">
		{#each open.troubles as { rule, severity, says, cure, at }, i (`${rule} ${at.join(' ')} ${i}`)}
			<li data-rule={rule} class="flex items-start gap-2">
				<span class="mt-1"
					><StateMark
						state={severity === 'error' ? 'danger' : severity === 'warning' ? 'attention' : 'quiet'}
					/></span
				>
				<div class="min-w-0 flex-1">
					<p><span class="plate">{WORDS[severity]}:</span> {says}</p>
					{#if cure.edits.length > 0}<button
							class="btn mt-1 h-auto py-1 btn-xs"
							disabled={open.doing.busy}
							onclick={() => open.edit(cure.says, () => cure.edits)}>{cure.says.replace(/\.$/, '')}</button
						>
					{:else}<p class="small-print">{cure.says}</p>{/if}
				</div>
			</li>
		{/each}
	</ul>
{/if}
