<script lang="ts">
	/** What went wrong, and what to try. */
	let { problem }: { problem: { message: string; remedy?: string } } = $props();
</script>

<div role="alert" class="alert block border-l-4 alert-outline py-2 alert-error">
	<p class="font-semibold">{problem.message}</p>
	{#if problem.remedy}<p class="text-ink">{problem.remedy}</p>{/if}
</div>
