<script lang="ts">
	import {
		createFilteredRowModel,
		createSortedRowModel,
		createTable,
		filterFns,
		globalFilteringFeature,
		columnFilteringFeature,
		rowSortingFeature,
		sortFns,
		tableFeatures,
		type ColumnDef
	} from '@tanstack/svelte-table';
	import type { Device } from '$lib/core/gear';
	import StateMark, { type Mark } from './StateMark.svelte';
	import { roving } from './roving';
	import { count } from './words';

	interface Row {
		device: Device;
		line: string;
		state: Mark;
		versions: number;
		lastVerifiedAt: string | null;
	}
	let { rows, onBringBack }: { rows: Row[]; onBringBack?: (id: string, name: string) => void } = $props();

	const features = tableFeatures({
		rowSortingFeature,
		columnFilteringFeature,
		globalFilteringFeature,
		sortedRowModel: createSortedRowModel(),
		filteredRowModel: createFilteredRowModel(),
		sortFns,
		filterFns
	});
	const STATES = {
		danger: 'At risk',
		attention: 'Look at it',
		verified: 'Verified',
		quiet: 'Quiet'
	} as const;
	const ORDER = ['danger', 'attention', 'verified', 'quiet'];
	const columns: ColumnDef<typeof features, Row>[] = [
		{ id: 'name', header: 'Name', accessorFn: ({ device }) => device.name },
		{
			id: 'model',
			header: 'Maker and model',
			accessorFn: ({ device }) => `${device.maker} ${device.model}`.trim()
		},
		{ id: 'kind', header: 'Kind', accessorFn: ({ device }) => device.kind },
		{ id: 'place', header: 'Place', accessorFn: ({ device }) => device.place },
		{ id: 'channel', header: 'Channel', accessorFn: ({ device }) => device.channel ?? 99 },
		{ id: 'firmware', header: 'Firmware', accessorFn: ({ device }) => device.firmware },
		{ id: 'versions', header: 'Kept', accessorFn: ({ versions }) => versions },
		{ id: 'state', header: 'Now', accessorFn: ({ state }) => ORDER.indexOf(state) }
	];
	let only = $state('');
	let grouped = $state(true);
	const data = $derived(rows.filter((row) => only === '' || row.state === only));
	const table = createTable({
		features,
		columns,
		get data() {
			return data;
		},
		globalFilterFn: 'includesString',
		initialState: { sorting: [{ id: 'name', desc: false }] }
	});
	const shown = $derived(table.getRowModel().rows.map((row) => row.original));
	const sorting = $derived(table.atoms.sorting.get());
	const groups = $derived(
		grouped
			? [...new Set(shown.map(({ device }) => device.place))]
					.sort((a, b) => (a || '~').localeCompare(b || '~'))
					.map((place) => ({
						place: place || 'No place yet',
						rows: shown.filter(({ device }) => device.place === place)
					}))
			: [{ place: null, rows: shown }]
	);
	const direction = (id: string) => {
		const mine = sorting.find((entry) => entry.id === id);
		return mine ? (mine.desc ? 'descending' : 'ascending') : 'none';
	};
</script>

<div class="my-3 flex flex-wrap items-center gap-3">
	<label class="input w-56 input-sm"
		><span class="sr-only">Search the gear</span><input
			type="search"
			placeholder="Search the gear"
			oninput={(event) => table.setGlobalFilter(event.currentTarget.value)}
		/></label
	>
	<div class="flex items-center gap-2">
		<label for="gear-state" class="small-print">State</label>
		<select id="gear-state" class="select w-36 select-sm" bind:value={only}>
			<option value="">All</option>
			{#each ORDER as entry (entry)}<option value={entry}>{STATES[entry as keyof typeof STATES]}</option
				>{/each}
		</select>
	</div>
	<label class="flex items-center gap-2"
		><input type="checkbox" class="checkbox checkbox-sm" bind:checked={grouped} /> Group by place</label
	>
	<span class="flex-1"></span>
	<span class="small-print" role="status">{count(shown.length, 'device')}</span>
</div>

<div class="overflow-x-auto" {@attach roving('tbody a')}>
	<table class="ledger-table">
		<thead>
			<tr>
				{#each columns as column (column.id)}
					<th
						aria-sort={direction(column.id!)}
						class={column.id === 'channel' || column.id === 'versions' ? 'number' : ''}
					>
						<button class="hover:underline" onclick={() => table.getColumn(column.id!)?.toggleSorting()}>
							{column.header}{direction(column.id!) === 'ascending'
								? ' ↑'
								: direction(column.id!) === 'descending'
									? ' ↓'
									: ''}
						</button>
					</th>
				{/each}
				{#if onBringBack}<th><span class="sr-only">Bring back</span></th>{/if}
			</tr>
		</thead>
		{#each groups as group (group.place)}
			<tbody>
				{#if group.place !== null}
					<tr
						><th colspan={columns.length + (onBringBack ? 1 : 0)} scope="rowgroup" class="!pt-4 !text-base"
							>{group.place}</th
						></tr
					>
				{/if}
				{#each group.rows as { device, line, state, versions } (device.id)}
					<tr class="hover:bg-ground">
						<td class="plate max-w-56 break-words"
							><a class="link-quiet" href={`/gear/${device.id}`}>{device.name}</a></td
						>
						<td class="max-w-48 break-words">{device.maker} {device.model}</td>
						<td>{device.kind}</td>
						<td>{device.place}</td>
						<td class="number">{device.channel ?? ''}</td>
						<td>{device.firmware}</td>
						<td class="number">{versions || ''}</td>
						<td
							><span class="flex items-center gap-1.5 whitespace-nowrap"
								><StateMark {state} size={11} /> {line}</span
							></td
						>
						{#if onBringBack}<td
								><button class="btn btn-xs" onclick={() => onBringBack(device.id, device.name)}
									>Bring back {device.name}</button
								></td
							>{/if}
					</tr>
				{/each}
			</tbody>
		{/each}
	</table>
</div>
