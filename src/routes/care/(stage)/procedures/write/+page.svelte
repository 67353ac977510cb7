<script lang="ts">
	import { goto } from '$app/navigation';
	import { procedureSchema } from '$lib/core/care';
	import { call } from '$lib/hardware/api';
	import { Doing } from '$lib/ui/doing.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { readDraft, writeDraft } from '$lib/ui/remembered.svelte';
	import { saveFile } from '$lib/ui/save-file';
	import { count } from '$lib/ui/words';
	import DocumentEditor from '$lib/ui/workshop/DocumentEditor.svelte';
	import { readText } from '$lib/ui/workshop/document-text';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const draft = `procedure ${data.wanted}`;
	// svelte-ignore state_referenced_locally
	let text = $state(readDraft(draft) ?? data.json);
	let opened = $state(0);
	const doing = new Doing();
	const read = $derived(readText(text, procedureSchema));
	/** Under an id that is there already it takes the place of that one. */
	const inPlaceOf = $derived(data.known.find(({ id }) => id === read.value?.id) ?? null);
	$effect(() => writeDraft(draft, text === data.json ? null : text));

	const save = () =>
		doing.run(async () => {
			const { title } = await call<{ title: string }>('POST', '/procedures', JSON.parse(text));
			writeDraft(draft, null);
			notices.say(`“${title}” is kept.`, 'good');
			await goto('/care/procedures');
		});
	async function open(file: File) {
		text = await file.text();
		opened++;
	}
</script>

<svelte:head><title>Write a procedure · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-baseline justify-between gap-3">
	<h2>
		{data.wanted === 'new'
			? 'Write a procedure'
			: `Write on “${data.known.find(({ id }) => id === data.wanted)?.title}”`}
	</h2>
	<a class="link" href="/care/procedures">All procedures</a>
</div>
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
<div class="mt-3 grid grid-cols-1 gap-6 xl:grid-cols-[minmax(0,1fr)_22rem]">
	<section aria-label="Text" class="min-w-0">
		{#key opened}<DocumentEditor
				bind:text
				schema={data.schema}
				label="Text of the procedure"
				faultsOf={(now) => readText(now, procedureSchema).faults}
			/>{/key}
		<p class="mt-2 flex flex-wrap items-center gap-2">
			<button
				class="btn btn-primary btn-sm"
				disabled={read.value === null || doing.busy}
				onclick={() => void save()}>Keep it</button
			>
			<button
				class="btn btn-sm"
				onclick={() => saveFile(`${read.value?.id ?? 'procedure'}.json`, text, 'application/json')}
				>Save to a file</button
			>
			<FilePick title="Open a file" accept=".json,application/json" picked={open} />
			{#if text !== data.json}<button
					class="btn btn-ghost btn-sm"
					onclick={() => {
						text = data.json;
						opened++;
					}}>Discard what is not saved</button
				>{/if}
			<span class="small-print" role="status"
				>{read.faults.length === 0
					? 'No fault.'
					: `${count(read.faults.length, 'fault')}: ${read.faults[0].says}`}</span
			>
		</p>
		{#if inPlaceOf}<p class="small-print mt-1">
				{inPlaceOf.own
					? `It takes the place of your “${inPlaceOf.title}”.`
					: `It takes the place of “${inPlaceOf.title}”, which comes with the app and is back when yours is taken away.`}
				Runs that were begun go on as they were begun.
			</p>{/if}
	</section>
	<section aria-label="How it reads" class="min-w-0">
		<h3>How it reads</h3>
		{#if read.value}
			<ol class="mt-1">
				{#each read.value.steps as step, i (step.id)}
					<li
						class={[
							'py-1',
							step.by === 'gate' ? 'border-b-4 border-double border-slate' : 'border-b border-line'
						]}
					>
						<span class="figures small-print">{i + 1}</span>
						<span class="plate">{step.title}</span>
						<span class="small-print"
							>{{
								hand: 'by hand',
								app: 'by the app',
								wait: 'waiting',
								choice: 'a choice',
								gate: 'gate',
								file: 'a file'
							}[step.by]}{step.when ? `, only for ${step.when.is}` : ''}</span
						>
					</li>
				{/each}
			</ol>
		{:else}<p class="small-print mt-1">It is none yet: see its faults.</p>{/if}
	</section>
</div>
