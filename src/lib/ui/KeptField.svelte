<script lang="ts">
	interface Props {
		id?: string;
		/** What it is called, where no label of its own stands beside it. */
		says?: string;
		value: string;
		maxlength: number;
		placeholder?: string;
		class?: string;
		save: (text: string) => unknown;
	}
	/** A field whose text is kept when it is left: what is typed stays while something else of the page is saved. */
	let { id, says, value, maxlength, placeholder, class: look, save }: Props = $props();
	let typed = $state<string | null>(null);

	async function keep(text: string) {
		await save(text.trim());
		if (typed === text) typed = null;
	}
</script>

<input
	{id}
	class={look}
	{maxlength}
	{placeholder}
	aria-label={says}
	value={typed ?? value}
	oninput={(event) => (typed = event.currentTarget.value)}
	onchange={(event) => void keep(event.currentTarget.value)}
/>
