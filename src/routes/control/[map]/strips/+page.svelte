<script lang="ts">
	import { stripSheets, stripsOf } from '$lib/core/control';
	import { openMap } from '$lib/ui/control/map-context';

	const open = openMap();
	const map = $derived(open.map);
	let only = $state<number | null>(null);
	const sheets = $derived(stripSheets(stripsOf(map, only === null ? undefined : [only])));
</script>

<svelte:head><title>Strips of {map.name} · Silent Drawer</title></svelte:head>

<header class="mb-4 print:hidden">
	<h1>Strips of {map.name}</h1>
	<p class="small-print">
		<a href={`/control/${open.id}`}>Back to the map</a> · A4, lying; print at 100 %, not “fit to page”, then lay
		a ruler to the line of 100 mm on the first sheet.
	</p>
	<div class="mt-3 flex flex-wrap items-end gap-3">
		<button class="btn btn-primary btn-sm" disabled={sheets.length === 0} onclick={() => window.print()}
			>Print {sheets.length === 1 ? 'the sheet' : `${sheets.length} sheets`}</button
		>
		<div class="field">
			<label for="strip-page">Strips of</label>
			<select id="strip-page" class="select w-48 select-sm" bind:value={only}>
				<option value={null}>all {map.surface.pages.word}s</option>
				{#each map.pages as { number, name } (number)}<option value={number}
						>{map.surface.pages.word} {number} {name}</option
					>{/each}
			</select>
		</div>
	</div>
</header>
{#if sheets.length === 0}
	<p class="print:hidden">
		Nothing is written on any strip yet. <a class="link" href={`/control/${open.id}`}>Write on them</a> first.
	</p>
{/if}
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
		:global(main#page) {
			padding: 0 !important;
		}
		.a4 {
			/* A little less than the paper: what reached its edges would flow over, or be shrunk by the browser. */
			width: 292mm;
			height: 208mm;
			max-width: none;
			margin: 0;
			break-after: page;
		}
		.a4:last-of-type {
			break-after: auto;
		}
		@page {
			size: 297mm 210mm;
			margin: 0;
		}
	}
</style>
