<script lang="ts">
	import { stripSheets, stripsOf } from '$lib/core/control';
	import StripSheets from '$lib/ui/control/StripSheets.svelte';
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
<StripSheets {sheets} />

<style>
	@media print {
		:global(main#page) {
			padding: 0 !important;
		}
	}
</style>
