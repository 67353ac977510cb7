<script lang="ts">
	/** What went wrong, and what to try. */
	let { problem }: { problem: { message: string; remedy?: string } } = $props();
</script>

<div role="alert" class="border-rust bg-sheet rounded border-l-4 px-3 py-2">
	<p class="text-rust font-semibold">{problem.message}</p>
	{#if problem.remedy}<p>{problem.remedy}</p>{/if}
</div>
