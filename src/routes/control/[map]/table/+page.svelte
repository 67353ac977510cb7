<script lang="ts">
	import FilePick from '$lib/ui/FilePick.svelte';
	import { readTable, tableOf, TABLE_COLUMNS, type TableFault } from '$lib/core/control';
	import MapHead from '$lib/ui/control/MapHead.svelte';
	import { openMap } from '$lib/ui/control/map-context';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { count } from '$lib/ui/words';

	const open = openMap();
	const rows = $derived(tableOf(open.map));
	/** Columns in which something stands. */
	const shown = $derived(
		TABLE_COLUMNS.filter(
			(column) => ['Page', 'Control', 'Target'].includes(column) || rows.some((row) => row[column])
		)
	);
	let faults = $state.raw<TableFault[]>([]);

	async function bring(file: File) {
		const text = await file.text();
		const read = readTable(open.map, text);
		faults = 'faults' in read ? read.faults : [];
		if ('faults' in read) return;
		if (await open.order('table', (revision) => ({ revision, text })))
			notices.say(`The map is as ${file.name} has it.`, 'good');
	}
</script>

<svelte:head><title>Table of {open.map.name} · Silent Drawer</title></svelte:head>

<MapHead {open} />
<p class="mb-3"><a class="link" href={`/control/${open.id}`}>Back to the strips</a></p>
<div class="flex flex-wrap items-center gap-2">
	<a class="btn btn-sm" href={`/api/v1/maps/${open.id}/table`} download>As CSV</a>
	<FilePick title="Take over a changed CSV" accept=".csv,text/csv" picked={bring} />
	<p class="small-print">
		{count(rows.length, 'row')}: one for each target. A range, curve or way that is left blank is what is
		usual.
	</p>
</div>
{#if open.doing.problem}<div class="mt-2"><ProblemNote problem={open.doing.problem} /></div>{/if}
{#if faults.length > 0}
	<ul role="alert" class="mt-2 list-inside list-disc text-rust">
		{#each faults as { line, column, says } (`${line} ${column} ${says}`)}<li>
				Line {line}, {column}: {says}
			</li>{/each}
	</ul>
	<p class="small-print">Nothing was changed. Correct these cells, and take it over again.</p>
{/if}
{#if rows.length === 0}
	<p class="mt-3">Nothing is written on any strip yet.</p>
{:else}
	<div class="mt-3 overflow-x-auto">
		<table class="ledger-table">
			<thead
				><tr
					>{#each shown as column (column)}<th scope="col">{column}</th>{/each}</tr
				></thead
			>
			<tbody>
				{#each rows as row, i (i)}
					<tr
						>{#each shown as column (column)}{#if column === 'Control'}<th scope="row">{row[column]}</th
								>{:else}<td>{row[column]}</td>{/if}{/each}</tr
					>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
