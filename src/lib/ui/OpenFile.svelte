<script lang="ts">
	import { intake } from './intake.svelte';

	/** Chooses files, or a folder of them, for those who do not drag. */
	let { title = 'Open files' }: { title?: string } = $props();
	let input: HTMLInputElement | undefined = $state();
	let folder: HTMLInputElement | undefined = $state();

	function chosen(from: HTMLInputElement) {
		intake.files = [...(from.files ?? [])].map((file) => ({
			file,
			from: file.webkitRelativePath.split('/').slice(0, -1).join('/')
		}));
		from.value = '';
	}
</script>

<button class="btn btn-sm" onclick={() => input?.click()}>{title}</button>
<input
	bind:this={input}
	type="file"
	multiple
	class="hidden"
	aria-label={title}
	tabindex="-1"
	onchange={(event) => chosen(event.currentTarget)}
/>
<button class="btn btn-sm" onclick={() => folder?.click()}>Open a folder</button>
<input
	bind:this={folder}
	type="file"
	webkitdirectory
	class="hidden"
	aria-label="Open a folder"
	tabindex="-1"
	onchange={(event) => chosen(event.currentTarget)}
/>
