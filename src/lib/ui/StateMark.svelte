<script lang="ts">
	/** A state's own shape; the word stands beside it, always. */
	let { state, size = 12 }: { state: 'verified' | 'attention' | 'danger' | 'quiet'; size?: number } =
		$props();
	const colour = { verified: 'text-pine', attention: 'text-brass', danger: 'text-rust', quiet: 'text-slate' };
</script>

<svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true" class={['shrink-0', colour[state]]}>
	{#if state === 'verified'}
		<circle cx="6" cy="6" r="5.5" fill="currentColor" /><path
			d="M3.4 6.2 5.3 8 8.7 4.2"
			fill="none"
			stroke="var(--color-sheet)"
			stroke-width="1.5"
		/>
	{:else if state === 'attention'}
		<path
			d="M6 .8 11.6 11H.4Z"
			fill="none"
			stroke="currentColor"
			stroke-width="1.5"
			stroke-linejoin="round"
		/>
	{:else if state === 'danger'}
		<path d="M6 0 12 6 6 12 0 6Z" fill="currentColor" /><path
			d="M6 3v3.6M6 8v1.2"
			stroke="var(--color-sheet)"
			stroke-width="1.4"
		/>
	{:else}
		<path d="M1.5 6h9" stroke="currentColor" stroke-width="1.6" />
	{/if}
</svg>
