<script lang="ts">
	import { enhance } from '$app/forms';
	import { beforeNavigate } from '$app/navigation';

	let { data, form } = $props();
	// svelte-ignore state_referenced_locally
	let notes = $state(form?.notes ?? data.device.notes);
	const dirty = $derived(notes !== data.device.notes);

	beforeNavigate((navigation) => {
		if (dirty && navigation.type !== 'form' && !confirm('Your note is not saved yet. Leave all the same?'))
			navigation.cancel();
	});
</script>

<svelte:head><title>Notes on {data.device.name} · Silent Drawer</title></svelte:head>

<form
	method="POST"
	use:enhance={() =>
		async ({ update }) =>
			update({ reset: false })}
	class="max-w-3xl"
>
	<label for="notes" class="small-print">What you would write on masking tape</label>
	<textarea id="notes" name="notes" rows="14" class="textarea mt-1 w-full" bind:value={notes}></textarea>
	<p class="mt-2 flex items-center gap-3">
		<button class="btn btn-primary" disabled={!dirty}>Save the note</button>
		<span role="status" class={form?.says ? 'text-rust' : 'small-print'}
			>{form?.says ?? (dirty ? 'Not saved yet' : form?.saved ? 'Saved' : '')}</span
		>
	</p>
</form>
