<script lang="ts">
	import type { Snippet } from 'svelte';

	/** A dialog on the browser's own element: focus stays inside, Esc closes it. */
	let {
		open = $bindable(false),
		title,
		wide = false,
		children
	}: { open?: boolean; title: string; wide?: boolean; children: Snippet } = $props();
	let dialog: HTMLDialogElement | undefined = $state();

	$effect(() => {
		if (open && !dialog?.open) dialog?.showModal();
		if (!open && dialog?.open) dialog.close();
	});
</script>

<dialog bind:this={dialog} class="modal" aria-label={title} onclose={() => (open = false)}>
	{#if open}
		<div class={['modal-box border border-line bg-sheet', wide ? 'max-w-4xl' : 'max-w-xl']}>
			<div class="mb-3 flex items-start gap-3">
				<h2 class="flex-1">{title}</h2>
				<button class="btn btn-ghost btn-sm" onclick={() => (open = false)}>Close</button>
			</div>
			{@render children()}
		</div>
	{/if}
</dialog>
