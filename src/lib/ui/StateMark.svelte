<script module lang="ts">
	/** Shown to be so · somebody should act · something is wrong · under way · nothing to say. */
	export type Mark = 'verified' | 'attention' | 'danger' | 'going' | 'quiet';
</script>

<script lang="ts">
	/** A state's own shape; the word stands beside it, always. */
	let { state, size = 12 }: { state: Mark; size?: number } = $props();
	const colour: Record<Mark, string> = {
		verified: 'text-pine',
		attention: 'text-warn',
		danger: 'text-rust',
		going: 'text-going',
		quiet: 'text-slate'
	};
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
	{:else if state === 'going'}
		<circle cx="6" cy="6" r="4.8" fill="none" stroke="currentColor" stroke-width="1.4" /><path
			d="M6 1.2a4.8 4.8 0 0 1 0 9.6Z"
			fill="currentColor"
		/>
	{:else}
		<path d="M1.5 6h9" stroke="currentColor" stroke-width="1.6" />
	{/if}
</svg>
