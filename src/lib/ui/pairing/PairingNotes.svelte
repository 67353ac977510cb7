<script lang="ts">
	import { pairingNotes, type Pairings } from '$lib/core/pairing';
	import type { Rig } from '$lib/core/rig';
	import StateMark from '../StateMark.svelte';

	/** What is known not to work between devices that a cable joins. */
	let { pairings, rig, title }: { pairings: Pairings; rig: Rig; title: string } = $props();
	const notes = $derived(pairingNotes(pairings, rig));
</script>

{#if notes.length > 0}
	<section class="mt-4" aria-label={title}>
		<h2>{title}</h2>
		<ul class="mt-1 flex flex-col gap-1">
			{#each notes as { record, says } (`${record.id} ${says}`)}
				<li class="flex items-start gap-2">
					<span class="mt-1"><StateMark state="attention" /></span><span
						>{says} <a class="small-print link" href="/gear/pairings">What works with what</a></span
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}
