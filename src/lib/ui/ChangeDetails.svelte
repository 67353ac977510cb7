<script lang="ts">
	import type { SlotChange } from '$lib/core/drawer';

	/** What was edited in one slot, in the panel's own units. */
	let { change }: { change: SlotChange } = $props();
</script>

<section class="sheet mt-2 bg-ground p-3" aria-label={`Changes of ${change.label}`}>
	<h3>
		{change.label}: {change.nameBefore ?? ''}{change.nameAfter !== change.nameBefore
			? ` → ${change.nameAfter}`
			: ''}
	</h3>
	{#if change.state === 'same'}
		<p>The same, byte for byte.</p>
	{:else if !change.change}
		<p>
			{change.from
				? `The same content, byte for byte, that was in ${change.from.label}.`
				: 'A new sound: nothing in the older version is like it.'}
		</p>
	{:else}
		{#if change.change.parameters.length > 0}
			<table class="ledger-table mt-1 max-w-xl">
				<thead><tr><th>Parameter</th><th class="number">From</th><th class="number">To</th></tr></thead>
				<tbody>
					{#each change.change.parameters as parameter (parameter.id)}<tr
							><td>{parameter.name}</td><td class="number">{parameter.from}</td><td class="number"
								>{parameter.to}</td
							></tr
						>{/each}
				</tbody>
			</table>
		{:else if change.change.name}<p>Only the name is another.</p>{/if}
		{#if change.change.otherBytes > 0}<p class="small-print mt-1">
				{change.change.otherBytes} more bytes differ that the profile gives no name.
			</p>{/if}
	{/if}
</section>
