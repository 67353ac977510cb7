<script lang="ts">
	import { goto } from '$app/navigation';
	import { procedureSchema } from '$lib/core/care';
	import { call } from '$lib/hardware/api';
	import { Doing } from '$lib/ui/doing.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { readDraft, writeDraft } from '$lib/ui/remembered.svelte';
	import DocumentDraft from '$lib/ui/workshop/DocumentDraft.svelte';
	import { readText } from '$lib/ui/workshop/document-text';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const draft = `procedure ${data.wanted}`;
	// svelte-ignore state_referenced_locally
	let text = $state(readDraft(draft) ?? data.json);
	const doing = new Doing();
	const read = $derived(readText(text, procedureSchema));
	/** Under an id that is there already it takes the place of that one. */
	const inPlaceOf = $derived(data.known.find(({ id }) => id === read.value?.id) ?? null);
	$effect(() => writeDraft(draft, text === data.json ? null : text));

	const keep = () =>
		doing.run(async () => {
			const { title } = await call<{ title: string }>('POST', '/procedures', JSON.parse(text));
			writeDraft(draft, null);
			notices.say(`“${title}” is kept.`, 'good');
			await goto('/care/procedures');
		});
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
		<DocumentDraft
			bind:text
			kept={data.json}
			{read}
			schema={procedureSchema}
			jsonSchema={data.schema}
			label="Text of the procedure"
			fileName={read.value?.id ?? 'procedure'}
		>
			{#snippet save()}
				<button
					class="btn btn-primary btn-sm"
					disabled={read.value === null || doing.busy}
					onclick={() => void keep()}>Keep it</button
				>
			{/snippet}
		</DocumentDraft>
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
