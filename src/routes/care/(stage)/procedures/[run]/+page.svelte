<script lang="ts">
	import { page } from '$app/state';
	import BenchPanel from '$lib/ui/BenchPanel.svelte';
	import { RunOnPage } from '$lib/ui/care/open-run.svelte';
	import RunEnd from '$lib/ui/care/RunEnd.svelte';
	import RunRecord from '$lib/ui/care/RunRecord.svelte';
	import RunSheet from '$lib/ui/care/RunSheet.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import When from '$lib/ui/When.svelte';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const open = new RunOnPage(data.run);
	$effect(() => open.take(data.run));
	const run = $derived(open.now);
	const procedure = $derived(run.run.procedure);
</script>

<svelte:head><title>{run.title} · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
	<h2 class="min-w-0 flex-1 basis-72 text-xl">
		{run.title}{#if run.device && !run.title.includes(run.device.name)}:
			<a class="link-quiet" href={`/gear/${run.device.id}`}>{run.device.name}</a>{/if}
	</h2>
	<p class="small-print">
		Begun <When at={run.begunAt} />, {run.world === 'bench' ? 'on the bench' : 'over real ports'}
	</p>
	<button class="btn btn-sm print:hidden" onclick={() => print()}>Print</button>
	<a class="btn btn-sm print:hidden" href={`/api/v1/runs/${run.id}/document`} download>Save</a>
</div>
{#if open.doing.problem}<div class="mt-2"><ProblemNote problem={open.doing.problem} /></div>{/if}

<div class="mt-3 grid grid-cols-1 gap-x-8 gap-y-6 xl:grid-cols-[minmax(0,1fr)_21rem]">
	<RunSheet {open} line={data.line} profile={data.profile} target={data.target} own={page.data.world} />
	<aside class="grid content-start gap-5 print:hidden" aria-label="Beside the steps">
		{#if run.over === null && run.world === 'bench' && run.device?.benchUnit}
			<BenchPanel unitId={run.device.benchUnit} />
		{/if}
		{#if procedure.cautions.length + run.worn.length > 0}
			<section aria-labelledby="cautions" class="border-l-4 border-warn pl-3">
				<h3 id="cautions">Cautions</h3>
				<ul class="mt-1 list-disc pl-5">
					{#each run.worn as control (control)}<li>It needs this: {control}</li>{/each}
					{#each procedure.cautions as caution (caution)}<li>{caution}</li>{/each}
				</ul>
			</section>
		{/if}
		<section aria-labelledby="way-back">
			<h3 id="way-back">The way back</h3>
			<p class="mt-1">{procedure.back}</p>
		</section>
		{#if procedure.needs.length > 0}
			<section aria-labelledby="needs">
				<h3 id="needs">It needs</h3>
				<ul class="mt-1">
					{#each procedure.needs as need (need.name)}<li>
							{need.name}{need.version ? `, ${need.version}` : ''}
							<span class="small-print">({need.what})</span>
							{#if need.sha256}<span class="block font-mono text-xs break-all">{need.sha256}</span>{/if}
						</li>{/each}
				</ul>
			</section>
		{/if}
		<RunRecord {run} />
		{#if run.over === null}<RunEnd {open} />{/if}
	</aside>
</div>
