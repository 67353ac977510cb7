<script lang="ts">
	import type { HTMLInputAttributes } from 'svelte/elements';

	interface Props extends Omit<HTMLInputAttributes, 'value' | 'oninput' | 'onchange'> {
		value: string;
		/** Its name, to be shown above it; left out where it is shown elsewhere. */
		label?: string;
		save: (text: string) => unknown;
	}
	/** A field whose text is kept when it is left: what is typed stays while something else of the page is saved. */
	let { value, label, save, ...rest }: Props = $props();
	const id = $props.id();
	let typed = $state<string | null>(null);

	async function keep(text: string) {
		await save(text);
		if (typed === text) typed = null;
	}
</script>

{#snippet field(own: { id?: string | null })}
	<input
		{...rest}
		{...own}
		value={typed ?? value}
		oninput={(event) => (typed = event.currentTarget.value)}
		onchange={(event) => void keep(event.currentTarget.value)}
	/>
{/snippet}
{#if label !== undefined}
	<div class="field"><label for={id}>{label}</label>{@render field({ id })}</div>
{:else}{@render field({ id: rest.id })}{/if}
