<script lang="ts">
	import { untrack } from 'svelte';
	import { linesKey } from '$lib/core/scene';
	import { refresh } from '$lib/ui/refresh';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { forgetKept } from '$lib/ui/scene/kept-stage.svelte';
	import { provideSet } from '$lib/ui/scene/open-set.svelte';

	/** One set for zones, songs and the run. */
	let { data, children } = $props();
	// svelte-ignore state_referenced_locally
	const open = provideSet(data.opened, data);
	$effect(() => {
		const { opened, ...lines } = data;
		// What was learnt since on this page is of the same revision: only a new load takes its place.
		untrack(() => {
			open.take(opened);
			open.reach(lines);
		});
	});
	// Whoever leaves these pages comes back to what the server sends.
	$effect(() => forgetKept);
	$effect(() => {
		// Instruments that came since: how they are reached, the server has to say.
		if (linesKey(open.set) !== open.lines.of) void untrack(refresh);
	});
</script>

{#if open.doing.problem}<div class="mb-3"><ProblemNote problem={open.doing.problem} /></div>{/if}
{@render children()}
