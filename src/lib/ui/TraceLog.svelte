<script lang="ts">
	import type { TraceLineData } from '$lib/core/drawer';
	import { count, groupHex } from './words';

	/** The full log of a transfer: time, direction, meaning, bytes. */
	let { lines, name }: { lines: TraceLineData[]; name: string } = $props();
	const PAGE = 200;
	let shown = $state(PAGE);
	let whole = $state<number | null>(null);
	const WAYS = { sent: '→ sent', received: '← received', note: '· note' };

	function save() {
		const text = lines
			.map(({ atMs, way, says, hex }) => [atMs.toFixed(1), way, says, groupHex(hex)].join('\t'))
			.join('\n');
		const url = URL.createObjectURL(
			new Blob([`ms\tdirection\tmeaning\tbytes\n${text}\n`], { type: 'text/tab-separated-values' })
		);
		const link = document.createElement('a');
		link.href = url;
		link.download = `${name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}-log.tsv`;
		link.click();
		URL.revokeObjectURL(url);
	}
</script>

<details class="mt-8">
	<summary class="cursor-pointer"
		><span class="plate">Log</span>
		<span class="small-print">{count(lines.length, 'line')}: every byte that was sent and received</span
		></summary
	>
	{#if lines.length > 0}
		<p class="my-2"><button class="btn btn-xs" onclick={save}>Save the log</button></p>
		<table class="ledger-table">
			<thead><tr><th class="number">Time</th><th>Direction</th><th>Meaning</th><th>Bytes</th></tr></thead>
			<tbody>
				{#each lines.slice(0, shown) as line, i (i)}
					<tr>
						<td class="number font-mono text-xs">{(line.atMs / 1000).toFixed(4)} s</td>
						<td class="whitespace-nowrap">{WAYS[line.way]}</td>
						<td>{line.says}</td>
						<td class="max-w-md font-mono text-xs break-all">
							{groupHex(whole === i ? line.hex : line.hex.slice(0, 64))}
							{#if line.hex.length > 64}<button
									class="btn btn-xs"
									onclick={() => (whole = whole === i ? null : i)}
									>{whole === i ? 'Less' : `All ${line.hex.length / 2} bytes`}</button
								>{/if}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if lines.length > shown}<button class="btn mt-2 btn-sm" onclick={() => (shown += PAGE)}
				>Show {Math.min(PAGE, lines.length - shown)} more</button
			>{/if}
	{:else}
		<p class="small-print mt-2">Nothing was logged.</p>
	{/if}
</details>
