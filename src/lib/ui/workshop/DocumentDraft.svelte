<script lang="ts" generics="T">
	import type { Snippet } from 'svelte';
	import type { z } from 'zod';
	import FilePick from '../FilePick.svelte';
	import { saveFile } from '../save-file';
	import { count } from '../words';
	import DocumentEditor from './DocumentEditor.svelte';
	import { readText, type TextFault } from './document-text';

	interface Props {
		text: string;
		/** As it is kept: what differs from it is not saved. */
		kept: string;
		/** The text as it was read. */
		read: { value: T | null; faults: TextFault[] };
		schema: z.ZodType<T>;
		jsonSchema: object;
		label: string;
		/** What a file of it is called. */
		fileName: string;
		/** Goes up when another text takes the place of the one that is written on. */
		opened?: number;
		/** Goes up when it was written on from elsewhere on the page. */
		rewritten?: number;
		/** The button that saves it. */
		save: Snippet;
	}
	/** A document that is written on: its text with faults, saved by its page, to a file, or taken from one. */
	let {
		text = $bindable(),
		kept,
		read,
		schema,
		jsonSchema,
		label,
		fileName,
		opened = $bindable(0),
		rewritten = 0,
		save
	}: Props = $props();
	function replace(by: string) {
		text = by;
		opened++;
	}
</script>

{#key `${opened} ${rewritten}`}<DocumentEditor
		bind:text
		schema={jsonSchema}
		{label}
		faultsOf={(now) => readText(now, schema).faults}
	/>{/key}
<p class="mt-2 flex flex-wrap items-center gap-2">
	{@render save()}
	<button class="btn btn-sm" onclick={() => saveFile(`${fileName}.json`, text, 'application/json')}
		>Save to a file</button
	>
	<FilePick
		title="Open a file"
		accept=".json,application/json"
		picked={async (file) => replace(await file.text())}
	/>
	{#if text !== kept}<button class="btn btn-ghost btn-sm" onclick={() => replace(kept)}
			>Discard what is not saved</button
		>{/if}
	<span class="small-print" role="status"
		>{read.faults.length === 0
			? 'No fault.'
			: `${count(read.faults.length, 'fault')}: ${read.faults[0].says}`}</span
	>
</p>
