<script lang="ts">
	import type { HTMLInputAttributes } from 'svelte/elements';

	interface Props extends Omit<HTMLInputAttributes, 'value' | 'oninput' | 'onchange'> {
		value: string;
		save: (text: string) => unknown;
	}
	/** A field whose text is kept when it is left: what is typed stays while something else of the page is saved. */
	let { value, save, ...rest }: Props = $props();
	let typed = $state<string | null>(null);

	async function keep(text: string) {
		await save(text);
		if (typed === text) typed = null;
	}
</script>

<input
	{...rest}
	value={typed ?? value}
	oninput={(event) => (typed = event.currentTarget.value)}
	onchange={(event) => void keep(event.currentTarget.value)}
/>
