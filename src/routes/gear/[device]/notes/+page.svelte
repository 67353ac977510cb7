<script lang="ts">
	import { enhance } from '$app/forms';
	import { remembered } from '$lib/ui/remembered.svelte';

	let { data, form } = $props();
	// svelte-ignore state_referenced_locally
	const draft = remembered(`notes ${data.device.id}`, data.device.notes);
	/** What was noted when this was begun, or what was shown since. */
	// svelte-ignore state_referenced_locally
	let was = $state(data.device.notes);
	const dirty = $derived(draft.value !== data.device.notes);
</script>

<svelte:head><title>Notes on {data.device.name} · Silent Drawer</title></svelte:head>

<form
	method="POST"
	use:enhance={() =>
		async ({ result, update }) => {
			await update({ reset: false });
			// As it is stored: blanks at its ends are not.
			if (result.type === 'success') draft.forget(data.device.notes);
			const theirs = result.type === 'failure' ? (result.data?.theirs as string | undefined) : undefined;
			was = theirs ?? data.device.notes;
		}}
	class="max-w-3xl"
>
	<input type="hidden" name="was" value={was} />
	<label for="notes" class="small-print">What you would write on masking tape</label>
	<textarea id="notes" name="notes" rows="14" class="textarea mt-1 w-full" bind:value={draft.value}
	></textarea>
	<p class="mt-2 flex items-center gap-3">
		<button class="btn btn-primary" disabled={!dirty}>Save the note</button>
		{#if dirty}<button type="button" class="btn btn-ghost" onclick={() => draft.forget(data.device.notes)}
				>Discard</button
			>{/if}
		<span role="status" class={form?.says ? 'text-rust' : 'small-print'}
			>{(form?.theirs === undefined ? form?.says : undefined) ??
				(dirty ? 'Not saved yet; it is kept here until you do' : form?.saved ? 'Saved' : '')}</span
		>
	</p>
	{#if form?.theirs !== undefined}
		<div role="alert" class="mt-3 border-l-4 border-brass bg-ground p-3">
			<p>{form.says}</p>
			<p class="mt-1 whitespace-pre-wrap">{form.theirs}</p>
			<p class="small-print mt-1">Save again, and what you wrote takes its place.</p>
		</div>
	{/if}
</form>
