<script lang="ts">
	import {
		CONDITIONS,
		knownWords,
		modelWords,
		PAIRING_FUNCTIONS,
		PAIRING_RESULTS,
		PAIRING_WAYS,
		pairingMatrix,
		whoCan,
		type Answer,
		type Pairings
	} from '$lib/core/pairing';
	import FilePick from '$lib/ui/FilePick.svelte';
	import PairingForm from '$lib/ui/pairing/PairingForm.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import StateMark, { type Mark } from '$lib/ui/StateMark.svelte';
	import StepButtons from '$lib/ui/StepButtons.svelte';
	import { Stepped } from '$lib/ui/stepped.svelte';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const open = new Stepped<Pairings>(() => '/pairings', data.opened);
	$effect(() => open.take(data.opened));
	const pairings = $derived(open.document);
	const WORDS: Record<Answer['is'], { word: string; mark: Mark }> = {
		works: { word: 'works', mark: 'quiet' },
		limits: { word: 'within limits', mark: 'quiet' },
		'not now': { word: 'not as it is', mark: 'attention' },
		not: { word: 'does not', mark: 'danger' },
		unknown: { word: 'not known', mark: 'quiet' }
	};
	const functions = $derived([
		...new Set([...PAIRING_FUNCTIONS, ...pairings.records.map(({ does }) => does.toLowerCase())])
	]);
	let does = $state<string>(PAIRING_FUNCTIONS[0]);
	let onto = $state('');
	const to = $derived(data.devices.find(({ id }) => id === onto) ?? null);
	const answers = $derived(to ? whoCan(pairings, data.devices, to, does) : []);
	const known = $derived(answers.filter(({ record }) => record !== null));
	const rest = $derived(answers.filter(({ record }) => record === null));
	/** Only devices that something is known of: a studio of sixty would be mostly blank. */
	const rows = $derived(
		pairingMatrix(pairings, data.devices, does)
			.map((row, i) => ({ to: data.devices[i], answers: row.filter(({ record }) => record !== null) }))
			.filter((row) => row.answers.length > 0)
	);
	const froms = $derived(
		data.devices.filter(({ id }) => rows.some((row) => row.answers.some(({ device }) => device.id === id)))
	);
	const bring = (file: File) =>
		open.doing.run(async () => {
			const text = await file.text();
			await open.order('table', (revision) => ({ revision, text }));
		});
	const remove = (id: string) =>
		open.edit('A pairing is taken away', ({ records }) => [
			{ path: ['records', records.findIndex((each) => each.id === id)] }
		]);
</script>

<svelte:head><title>What works with what · Silent Drawer</title></svelte:head>

<header class="mb-3 flex flex-wrap items-start justify-between gap-3">
	<h1>What works with what</h1>
	<StepButtons
		of="the pairings"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
</header>
{#if open.doing.problem}<div class="mb-3"><ProblemNote problem={open.doing.problem} /></div>{/if}
<p class="max-w-prose">
	What two devices can do with one another is known by trial, by the label or by the manual, of that very
	model. What nobody tried or read is not known.
</p>

<section class="mt-4" aria-labelledby="ask-heading">
	<h2 id="ask-heading">What of mine can do it?</h2>
	<div class="mt-1 flex flex-wrap items-end gap-3">
		<div class="field">
			<label for="ask-does">What</label>
			<select id="ask-does" class="select w-48 select-sm" bind:value={does}>
				{#each functions as each (each)}<option>{each}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="ask-to">on</label>
			<select id="ask-to" class="select w-52 select-sm" bind:value={onto}>
				<option value="">any device</option>
				{#each data.devices as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
	</div>
	{#if to}
		<ul class="mt-2 flex flex-col gap-2" role="status">
			{#each known as { device, is, says, needed } (device.id)}
				<li class="flex items-start gap-2">
					<span class="mt-1"><StateMark state={WORDS[is].mark} /></span>
					<div>
						<span class="plate">{device.name}</span>: {WORDS[is].word}. {says}
						{#if needed.length > 0}
							<p class="small-print">What would have to be true:</p>
							<ul class="ml-4 list-disc text-sm">
								{#each needed as each (each.says)}
									<li>
										{each.says}{each.is === 'no' ? ': it is not so' : each.is === 'hand' ? ': see to it' : ''}
									</li>
								{/each}
							</ul>
						{/if}
					</div>
				</li>
			{:else}<li>Nothing of yours is known to do that on {to.name}, or not to.</li>{/each}
		</ul>
		{#if rest.length > 0}
			<details class="mt-2">
				<summary class="small-print">Not known of {rest.length} others</summary>
				<ul class="ml-4 text-sm">
					{#each rest as { device, says } (device.id)}<li>{device.name}: {says}</li>{/each}
				</ul>
			</details>
		{/if}
	{:else if rows.length > 0}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="mt-2 overflow-x-auto" tabindex="0" role="region" aria-label={`Who can do ${does} on whom`}>
			<table class="ledger-table">
				<thead
					><tr
						><th scope="col">Is told</th>{#each froms as { id, name } (id)}<th scope="col">{name}</th
							>{/each}</tr
					></thead
				>
				<tbody>
					{#each rows as row (row.to.id)}
						<tr>
							<th scope="row">{row.to.name}</th>
							{#each froms as { id } (id)}
								{@const answer = row.answers.find(({ device }) => device.id === id)}
								<td
									>{#if answer}<span class="flex items-center gap-1.5"
											><StateMark state={WORDS[answer.is].mark} size={11} />{WORDS[answer.is].word}</span
										>{:else}<span class="small-print">not known</span>{/if}</td
								>
							{/each}
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{:else}<p class="mt-2">Nothing is known of {does} yet.</p>{/if}
</section>

<section class="mt-6" aria-labelledby="records-heading">
	<h2 id="records-heading">What is noted</h2>
	{#if pairings.records.length > 0}
		<div class="mt-1 overflow-x-auto">
			<table class="ledger-table">
				<thead
					><tr
						><th scope="col">Sends</th><th scope="col">Is told</th><th scope="col">What</th><th scope="col"
							>Result</th
						><th scope="col">By</th><th scope="col">Known</th><th scope="col">If</th><th
							><span class="sr-only">What can be done</span></th
						></tr
					></thead
				>
				<tbody>
					{#each pairings.records as record (record.id)}
						<tr>
							<td>{modelWords(record.from)}</td>
							<td>{modelWords(record.to)}</td>
							<td>{record.does}</td>
							<td>{PAIRING_RESULTS[record.result]}{record.limit ? `: ${record.limit}` : ''}</td>
							<td>{PAIRING_WAYS[record.way]}</td>
							<td>{knownWords(record)}</td>
							<td>{record.conditions.map(({ what, is }) => `${CONDITIONS[what]}: ${is}`).join('; ')}</td>
							<td class="text-right"
								><button
									class="btn btn-ghost btn-xs"
									disabled={open.doing.busy}
									onclick={() => void remove(record.id)}
									>Take away<span class="sr-only">
										{modelWords(record.from)} with {modelWords(record.to)}, {record.does}</span
									></button
								></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{:else}<p class="mt-1">Nothing yet.</p>{/if}
	<PairingForm {open} devices={data.devices} />
	<div class="mt-3 flex flex-wrap gap-3">
		<a class="btn btn-sm" href="/api/v1/pairings/table" download>Save as CSV</a>
		<FilePick title="Add from CSV" accept=".csv,text/csv" picked={bring} />
	</div>
</section>
