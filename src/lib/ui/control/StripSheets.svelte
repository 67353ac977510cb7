<script lang="ts">
	/** Sheets of paper strips, A4 lying, in true size. */
	let { sheets }: { sheets: readonly string[] } = $props();
</script>

{#each sheets as sheet, i (i)}
	<svg
		class="a4"
		viewBox="0 0 292 208"
		role="img"
		aria-label={`Sheet ${i + 1} of ${sheets.length}`}
		font-family="'Atkinson Hyperlegible Next Variable', sans-serif"
	>
		<!-- Made by the core, which escapes every name. -->
		<!-- eslint-disable-next-line svelte/no-at-html-tags -->
		{@html sheet}
		{#if i === 0}<g transform="translate(10 204)">
				<path d="M0 -1.5v3M0 0h100M100 -1.5v3" fill="none" stroke="#000" stroke-width="0.2" />
				<text x="102" y="1" font-size="2.4">100 mm</text>
			</g>{/if}
	</svg>
{/each}

<style>
	.a4 {
		display: block;
		width: 292mm;
		height: auto;
		max-width: 100%;
		margin-bottom: 1rem;
		background: #fff;
		color: #000;
	}
	@media print {
		.a4 {
			/* A little less than the paper: what reached its edges would flow over, or be shrunk by the browser. */
			width: 292mm;
			height: 208mm;
			max-width: none;
			margin: 0;
			page: strips;
			break-after: page;
		}
		.a4:last-of-type {
			break-after: auto;
		}
		@page strips {
			size: 297mm 210mm;
			margin: 0;
		}
	}
</style>
