<script lang="ts">
	import { intake } from './intake.svelte';

	/** Chooses a dump file for those who do not drag. */
	let { title = 'Open a dump file' }: { title?: string } = $props();
	let input: HTMLInputElement | undefined = $state();
</script>

<button class="btn btn-sm" onclick={() => input?.click()}>{title}</button>
<input
	bind:this={input}
	type="file"
	accept=".syx,.mid,.midi"
	class="hidden"
	aria-label={title}
	tabindex="-1"
	onchange={() => {
		intake.file = input?.files?.[0] ?? null;
		if (input) input.value = '';
	}}
/>
