<script lang="ts">
	import type { DryRun } from '../core/drawer';
	import When from './When.svelte';
	import { count, duration } from './words';

	/** What would be sent and overwritten, judged by what was last read; the restore itself reads first. */
	let { dry }: { dry: DryRun } = $props();
	const SHOWN = 12;
</script>

<section aria-label="What would be written">
	<h2>What would be written</h2>
	{#if dry.impossible.length > 0}
		<p class="text-rust">The device does not take {dry.impossible.join(', ')} in this way.</p>
	{/if}
	{#if dry.overwritten.length === 0}
		<p>
			Nothing, if it still holds what it held when it was read{#if dry.readAt}&nbsp;<When
					at={dry.readAt}
				/>{/if}. The restore asks it first, and writes what differs.
		</p>
	{:else}
		<p>
			{count(dry.messages, 'message')}, {dry.bytes.toLocaleString('en')} bytes, {duration(dry.ms)} on the wire,
			for
			{count(dry.overwritten.length, 'slot')}{dry.alreadyThere > 0
				? `; ${dry.alreadyThere} held what is wanted when they were read last`
				: ''}{dry.along > 0 ? `; ${count(dry.along, 'neighbour')} written along unchanged` : ''}{dry.unknown >
			0
				? `; of ${dry.unknown} it is not known what they hold now`
				: ''}.
		</p>
		<ul class="mt-1 columns-2 text-sm sm:columns-3">
			{#each dry.overwritten.slice(0, SHOWN) as slot (slot.area + slot.index)}
				<li class="truncate">
					<span class="font-mono text-xs text-slate">{slot.label}</span>
					{slot.now ?? '?'} → <strong>{slot.then ?? '?'}</strong>
				</li>
			{/each}
		</ul>
		{#if dry.overwritten.length > SHOWN}<p class="small-print">
				And {dry.overwritten.length - SHOWN} more.
			</p>{/if}
	{/if}
</section>
