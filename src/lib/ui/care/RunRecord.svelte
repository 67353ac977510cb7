<script lang="ts">
	import { variantOf, type OpenRun, type RunEntry } from '$lib/core/care';
	import When from '../When.svelte';

	/** Everything that happened in a run, newest first; nothing is ever taken out of it. */
	let { run }: { run: OpenRun } = $props();
	const titles = $derived(new Map(run.run.procedure.steps.map(({ id, title }) => [id, title])));

	const saidOf = (entry: RunEntry): string => {
		switch (entry.what) {
			case 'begun':
				return 'begun';
			case 'done':
				return entry.note ? `done: ${entry.note}` : 'done';
			case 'failed':
				return entry.note ? `not so: ${entry.note}` : 'not so';
			case 'chosen':
				return `chosen: ${variantOf(run.run.procedure, entry.step, entry.variant)?.title ?? entry.variant}`;
			case 'file':
				return `${entry.name}${entry.version ? `, version ${entry.version}` : ''}, ${entry.sha256.slice(0, 12)}…`;
			case 'held':
				return entry.note ? `held; looked: ${entry.note}` : 'held';
			case 'back':
				return 'gone back to';
			case 'forth':
				return 'that was a slip: everything stands again';
			case 'overruled':
				return `passed without it (${entry.why}) because: ${entry.reason}`;
			case 'abandoned':
				return entry.reason ? `given up: ${entry.reason}` : 'given up';
		}
	};
	const entries = $derived([...run.run.entries].reverse());
</script>

<details open={run.over !== null}>
	<summary class="cursor-pointer">The record, {run.run.entries.length} lines</summary>
	<ol class="mt-2 grid gap-1 text-sm">
		{#each entries as entry, i (entries.length - i)}
			<li>
				<span class="plate">{titles.get(entry.step) ?? entry.step}</span>: {saidOf(entry)}
				<span class="small-print"><When at={entry.at} written /></span>
			</li>
		{/each}
	</ol>
</details>
