<script lang="ts">
	import { walksOf, type SwitchItem } from '$lib/core/care';

	interface Props {
		items: readonly SwitchItem[];
		conflicts: readonly string[];
		way: 'on' | 'off';
	}
	/** The list as it will be done: to look at, and to print. */
	let { items, conflicts, way }: Props = $props();
	const walks = $derived(walksOf(items));
</script>

<h2 class="hidden print:block">{way === 'on' ? 'Switching on' : 'Switching off'}</h2>
{#each conflicts as conflict (conflict)}
	<p class="mt-2 border-l-4 border-warn pl-2">{conflict}</p>
{/each}
{#if items.length === 0}
	<p class="small-print mt-2">Nothing to switch: the catalogue is empty, or everything is left out below.</p>
{/if}
<ol class="mt-2 max-w-4xl" aria-label={way === 'on' ? 'Order of switching on' : 'Order of switching off'}>
	{#each items as item, i (item.id)}
		{#if walks[i]}<li class="plate mt-3 border-b border-line" aria-label={`Place: ${walks[i]}`}>
				{walks[i]}
			</li>{/if}
		<li class="flex items-baseline gap-3 border-b border-line py-1">
			<span class="figures small-print w-6 shrink-0 text-right">{i + 1}</span>
			<span class="hidden size-3 shrink-0 border border-ink print:inline-block" aria-hidden="true"></span>
			<span class="min-w-0 flex-1"
				><span class="plate">{item.name}</span>: {item.says}{item.see ? `. You should see: ${item.see}` : ''}
				{#if item.why}<span class="small-print"> {item.why}</span>{/if}
				{#if item.messages.length > 0}<span class="small-print"> The app sends it.</span>{/if}</span
			>
		</li>
	{/each}
</ol>
