<script lang="ts">
	/** What went wrong, and what to try. */
	let { problem }: { problem: { message: string; remedy?: string } } = $props();
</script>

<div role="alert" class="rounded border-l-4 border-rust bg-sheet px-3 py-2">
	<p class="font-semibold text-rust">{problem.message}</p>
	{#if problem.remedy}<p>{problem.remedy}</p>{/if}
</div>
