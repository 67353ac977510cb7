<script lang="ts">
	import { enhance } from '$app/forms';
	import { remembered } from '$lib/ui/remembered.svelte';

	let { data, form } = $props();
	// svelte-ignore state_referenced_locally
	const draft = remembered(`notes ${data.device.id}`, data.device.notes);
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
		}}
	class="max-w-3xl"
>
	<label for="notes" class="small-print">What you would write on masking tape</label>
	<textarea id="notes" name="notes" rows="14" class="textarea mt-1 w-full" bind:value={draft.value}
	></textarea>
	<p class="mt-2 flex items-center gap-3">
		<button class="btn btn-primary" disabled={!dirty}>Save the note</button>
		{#if dirty}<button type="button" class="btn btn-ghost" onclick={() => draft.forget(data.device.notes)}
				>Discard</button
			>{/if}
		<span role="status" class={form?.says ? 'text-rust' : 'small-print'}
			>{form?.says ??
				(dirty ? 'Not saved yet; it is kept here until you do' : form?.saved ? 'Saved' : '')}</span
		>
	</p>
</form>
