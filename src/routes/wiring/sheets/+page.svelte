<script lang="ts">
	import FilePick from '$lib/ui/FilePick.svelte';
	import Papa from 'papaparse';
	import { cableList, channelChart, frontView, roleOf, settingsList, type Table } from '$lib/core/rig';
	import { call } from '$lib/hardware/api';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import { refresh } from '$lib/ui/refresh';
	import { saveFile } from '$lib/ui/save-file';
	import { count, problemOf } from '$lib/ui/words';

	let { data } = $props();
	const sheets = $derived<{ id: string; title: string; table: Table }[]>([
		{ id: 'cables', title: 'Cables', table: cableList(data.rig) },
		{ id: 'chart', title: 'Ports and channels', table: channelChart(data.rig) },
		{ id: 'settings', title: 'Panel settings', table: settingsList(data.rig) }
	]);
	const fronts = $derived(
		data.rig.devices
			.filter((device) => roleOf(device) === 'interface')
			.map((device) => ({ device, svg: frontView(data.rig, device) }))
	);
	const csv = (table: Table) => '\uFEFF' + Papa.unparse(table, { escapeFormulae: true });

	interface Preview {
		devices: { name: string; known: boolean }[];
		cables: number;
		others: string[];
		ignored: string[];
	}
	let file = $state.raw<{ name: string; text: string } | null>(null);
	let preview = $state.raw<Preview | null>(null);
	let problem = $state.raw<{
		message: string;
		remedy: string;
		faults: { at: string; says: string }[];
	} | null>(null);

	async function send(path: string, text: string) {
		const response = await fetch(`/api/v1${path}`, { method: 'POST', body: text });
		const answer = await response.json();
		if (!response.ok) {
			const { message, remedy, detail } = answer.problem;
			problem = { message, remedy, faults: detail?.faults ?? [] };
			return null;
		}
		return answer;
	}
	async function choose(chosen: File) {
		preview = problem = file = null;
		const text = await chosen.text();
		preview = (await send('/rig/import?preview', text)) as Preview | null;
		if (preview) file = { name: chosen.name, text };
	}
	async function takeOver() {
		if (!file || !(await send('/rig/import', file.text))) return;
		notices.say(`The wiring is that of ${file.name}.`, 'good');
		file = preview = null;
		await refresh();
	}
	async function exportRig() {
		try {
			const { rig } = await call<{ rig: unknown }>('GET', '/rig');
			saveFile('studio.rig.json', JSON.stringify(rig, null, '\t') + '\n', 'application/json');
		} catch (error) {
			notices.say(problemOf(error).message, 'bad');
		}
	}
</script>

<svelte:head><title>Sheets · Silent Drawer</title></svelte:head>

<div class="mb-4 flex flex-wrap items-center gap-2 print:hidden">
	<button class="btn btn-primary btn-sm" onclick={() => window.print()}>Print the sheets</button>
	{#each sheets as { id, title, table } (id)}
		<button class="btn btn-sm" onclick={() => saveFile(`${id}.csv`, csv(table), 'text/csv')}
			>{title} as CSV</button
		>
	{/each}
	<button class="btn btn-sm" onclick={exportRig}>Rig file (JSON)</button>
	<FilePick title="Open a rig file" accept=".json,application/json" picked={choose} />
</div>
{#if problem}
	<div class="mb-4">
		<ProblemNote {problem} />
		{#if problem.faults.length > 1}<ul class="mt-1 ml-5 list-disc">
				{#each problem.faults as fault (fault.at + fault.says)}<li>
						<code>{fault.at}</code>: {fault.says}
					</li>{/each}
			</ul>{/if}
	</div>
{/if}
{#if preview && file}
	<section class="sheet mb-5 p-4" aria-label="What the file would change">
		<p>
			<strong>{file.name}</strong> has {count(preview.devices.length, 'device')} and {count(
				preview.cables,
				'cable'
			)}.
			{count(preview.devices.filter(({ known }) => !known).length, 'device')} would join the catalogue. The cables
			and host ports of the file replace today’s.
		</p>
		{#if preview.others.length > 0}<p>
				Not in the file, and left without cables: {preview.others.join(', ')}.
			</p>{/if}
		{#if preview.ignored.length > 0}<p>
				Fields that the format does not know, ignored: {preview.ignored.join(', ')}.
			</p>{/if}
		<div class="mt-2 flex gap-2">
			<button class="btn btn-error btn-sm" onclick={takeOver}>Replace the wiring</button>
			<button class="btn btn-sm" onclick={() => (file = preview = null)}>Leave it as it is</button>
		</div>
	</section>
{/if}

{#each sheets as { id, title, table } (id)}
	<section class="mb-6 break-inside-avoid" aria-labelledby={`sheet-${id}`}>
		<h2 id={`sheet-${id}`} class="mb-1">{title}</h2>
		<div class="overflow-x-auto">
			<table class={['ledger-table', id === 'chart' && 'chart']}>
				<thead
					><tr
						>{#each table[0] as cell, i (i)}<th>{cell}</th>{/each}</tr
					></thead
				>
				<tbody
					>{#each table.slice(1) as row, r (r)}<tr
							>{#each row as cell, i (i)}<td class={i === 0 ? 'plate whitespace-nowrap' : ''}>{cell}</td
								>{/each}</tr
						>{/each}</tbody
				>
			</table>
		</div>
		{#if table.length === 1}<p class="small-print">Nothing yet.</p>{/if}
	</section>
{/each}
{#each fronts as { device, svg } (device.id)}
	<section class="mb-6 break-inside-avoid" aria-labelledby={`front-${device.id}`}>
		<div class="mb-1 flex items-center gap-3">
			<h2 id={`front-${device.id}`}>Front of {device.name}</h2>
			<button
				class="btn btn-xs print:hidden"
				onclick={() => saveFile(`${device.name}.svg`, svg, 'image/svg+xml')}>{device.name} as SVG</button
			>
		</div>
		<!-- eslint-disable-next-line svelte/no-at-html-tags -- made by the core, every name escaped -->
		<div class="overflow-x-auto">{@html svg}</div>
	</section>
{/each}

<style>
	.chart td,
	.chart th {
		padding: 0.25rem 0.3rem;
		font-size: 0.8rem;
	}
</style>
