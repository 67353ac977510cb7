<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { goto } from '$app/navigation';
	import type { CataloguePreview } from '$lib/core/gear';
	import { call } from '$lib/hardware/api';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { count } from '$lib/ui/words';

	let text = $state('');
	let preview = $state.raw<CataloguePreview | null>(null);
	const doing = new Doing();
	let left = $state<number[]>([]);
	const good = $derived(
		preview?.rows.filter(({ device, line }) => device !== null && !left.includes(line)) ?? []
	);

	async function read(file: File | undefined) {
		preview = null;
		left = [];
		if (!file) return;
		await doing.run(async () => {
			text = await file.text();
			preview = await call<CataloguePreview>('POST', '/catalogue/preview', { text });
			left = preview.rows.filter(({ known }) => known).map(({ line }) => line);
		});
	}

	async function add() {
		await doing.run(async () => {
			const { added } = await call<{ added: number }>('POST', '/catalogue/import', {
				text,
				lines: good.map(({ line }) => line)
			});
			await goto('/gear', { invalidateAll: true });
			notices.say(`${count(added, 'device')} added.`, 'good');
		});
	}
</script>

<svelte:head><title>Import a catalogue · Silent Drawer</title></svelte:head>

<h1>Import a catalogue from CSV</h1>
<p class="mt-1 max-w-prose">
	The first row names the columns, each further row is a device. An export of this app shows which columns are
	understood; only “Name” is needed.
</p>
<div class="field mt-4 max-w-md">
	<label for="csv">CSV file</label>
	<input
		id="csv"
		type="file"
		accept=".csv,text/csv"
		class="file-input w-full"
		onchange={(event) => read(event.currentTarget.files?.[0])}
	/>
</div>

{#if doing.problem}<div class="mt-4"><ProblemNote problem={doing.problem} /></div>{/if}
{#if preview}
	{#each preview.faults as fault (fault)}<div class="mt-4">
			<ProblemNote problem={{ message: fault, remedy: 'Correct the file and choose it again.' }} />
		</div>{/each}
	<h2 class="mt-5 mb-1">Columns</h2>
	<ul class="flex flex-wrap gap-2">
		{#each preview.columns as column, i (i)}
			<li class="sheet px-2 py-1 text-sm">
				{column.header || '(no name)'}
				{#if column.field}→ <strong>{column.field}</strong>{:else}<span class="text-rust"
						>is not understood and left out</span
					>{/if}
			</li>
		{/each}
	</ul>
	<h2 class="mt-5 mb-1">Rows</h2>
	<table class="ledger-table">
		<thead><tr><th>Take</th><th class="number">Line</th><th>Device</th><th>What it becomes</th></tr></thead>
		<tbody>
			{#each preview.rows as row (row.line)}
				<tr>
					<td>
						<input
							type="checkbox"
							class="checkbox checkbox-sm"
							aria-label={`Take line ${row.line}`}
							disabled={!row.device}
							checked={row.device !== null && !left.includes(row.line)}
							onchange={(event) =>
								(left = event.currentTarget.checked
									? left.filter((line) => line !== row.line)
									: [...left, row.line])}
						/>
					</td>
					<td class="number">{row.line}</td>
					<td>{row.device?.name ?? ''}</td>
					<td>
						{#if row.faults.length > 0}
							{#each row.faults as fault, i (i)}<p class="text-rust">
									{fault.column ? `${fault.column}: ` : ''}{fault.says}
								</p>{/each}
						{:else if row.known}A device of this name is in the catalogue already: take it only if it is a
							second one.
						{:else}{[row.device?.maker, row.device?.model, row.device?.place].filter(Boolean).join(', ')}{/if}
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
	<button class="btn mt-4 btn-primary" disabled={good.length === 0 || preview.faults.length > 0} onclick={add}
		>Add {count(good.length, 'device')}</button
	>
{/if}
