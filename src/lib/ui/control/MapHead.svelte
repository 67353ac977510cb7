<script lang="ts">
	import { walkedWords, walksOf } from '$lib/core/control';
	import StepButtons from '../StepButtons.svelte';
	import When from '../When.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** A map's name, its surface, its walks, and the steps that can be taken back. */
	let { open }: { open: OpenMap } = $props();
	const surface = $derived(open.map.surface);
	const walks = $derived(walksOf(open.map));
</script>

<header class="mb-4 flex flex-wrap items-start gap-3">
	<div class="min-w-0 flex-1">
		<h1 class="break-words">{open.map.name}</h1>
		<p class="small-print">
			<a href="/control">Maps</a> · {`${surface.maker} ${surface.model}`.trim()} ·
			{walkedWords(walks)}{#if walks.since}, <When at={walks.since} />{/if}
		</p>
	</div>
	<StepButtons
		of="this map"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
</header>
