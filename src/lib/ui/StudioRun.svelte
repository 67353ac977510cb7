<script lang="ts">
	import { studioBackup } from '../hardware/studio-backup.svelte';
	import StateMark from './StateMark.svelte';
	import { count, duration } from './words';

	let { retry, again }: { retry: () => void; again: () => void } = $props();

	const WORDS = {
		waiting: { word: 'waits', state: 'quiet' },
		running: { word: 'coming in', state: 'attention' },
		kept: { word: 'kept, verified', state: 'verified' },
		failed: { word: 'failed', state: 'danger' },
		cancelled: { word: 'not taken', state: 'quiet' }
	} as const;
	const jobs = $derived(studioBackup.jobs);
	const kept = $derived(jobs.filter(({ state }) => state === 'kept').length);
	const left = $derived(jobs.filter(({ state }) => state === 'failed' || state === 'cancelled'));
	const hands = $derived(
		jobs.flatMap(({ job }) => {
			const says = studioBackup.progressOf(job.id)?.hands;
			return says ? [{ name: job.name, place: job.place, says }] : [];
		})
	);
	let now = $state(performance.now());
	$effect(() => {
		if (!studioBackup.running) return;
		const tick = setInterval(() => (now = performance.now()), 250);
		return () => clearInterval(tick);
	});
	const elapsed = $derived(studioBackup.tookMs ?? Math.max(0, now - studioBackup.startedAt));
	const told = $derived(
		studioBackup.running
			? `${kept} of ${count(jobs.length, 'device')} kept`
			: left.length === 0
				? `All ${count(jobs.length, 'device')} kept`
				: `${kept} of ${count(jobs.length, 'device')} kept, ${left.length} not`
	);
</script>

<section aria-label="Backup of the studio">
	<h2>{told}</h2>
	<p class="sr-only" role="status">{told}</p>
	<p class="figures mt-1">
		{duration(elapsed)}
		{studioBackup.running ? 'so far' : 'in all'}; {duration(studioBackup.predictedMs)} were predicted.
	</p>
	{#each hands as { name, place, says } (name)}
		<div class="my-3 border-l-4 border-brass bg-ground p-3" role="alert">
			<p class="plate text-lg">{name}{place ? ` (${place})` : ''}: {says}</p>
		</div>
	{/each}
	<p class="mt-3 flex flex-wrap gap-2">
		{#if studioBackup.running}
			<button class="btn" onclick={() => studioBackup.cancel()}>Cancel the rest</button>
		{:else}
			{#if left.length > 0}<button class="btn btn-primary" onclick={retry}
					>Try the {left.length === 1 ? 'one' : left.length} again</button
				>{/if}
			<a class="btn" href={`/transfers/snapshots/${studioBackup.snapshotId}`}>Open the snapshot</a>
			<button class="btn btn-ghost" onclick={again}>Plan another</button>
		{/if}
	</p>
	{#if studioBackup.problem}<p class="text-rust">{studioBackup.problem.message}</p>{/if}
	<table class="ledger-table mt-4">
		<thead
			><tr
				><th>Device</th><th>Port</th><th>Result</th><th class="number">Predicted</th><th class="number"
					>Took</th
				></tr
			></thead
		>
		<tbody>
			{#each jobs as { job, state, says, transferId, tookMs } (job.id)}
				{@const run = studioBackup.progressOf(job.id)}
				<tr>
					<td class="plate max-w-52 truncate"
						>{#if transferId}<a class="link-quiet" href={`/transfers/${transferId}`}>{job.name}</a
							>{:else}{job.name}{/if}</td
					>
					<td class="max-w-44 truncate">{job.lanes.at(-1)?.replace(/ in$/, '')}</td>
					<td>
						<span class="flex items-center gap-1.5"
							><StateMark state={WORDS[state].state} size={11} />{WORDS[state].word}{#if run}
								<progress
									class="progress w-24 progress-primary"
									value={run.progress.share * 100}
									max="100"
									aria-label={`Share of ${job.name}`}
								></progress>{/if}</span
						>
						{#if says}<span class="small-print block max-w-xl">{says}</span>{/if}
					</td>
					<td class="number">{duration(job.expectedMs / studioBackup.factor)}</td>
					<td class="number">{tookMs === null ? '' : duration(tookMs)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
</section>
