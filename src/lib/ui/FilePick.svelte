<script lang="ts">
	interface Props {
		title: string;
		/** Endings or types; left out, any file. */
		accept?: string;
		picked: (file: File) => unknown;
	}
	/** A button that has a file chosen; the same file can be chosen again. */
	let { title, accept, picked }: Props = $props();

	function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		if (file) void picked(file);
	}
</script>

<label class="btn btn-sm">{title}<input type="file" class="sr-only" {accept} onchange={choose} /></label>
