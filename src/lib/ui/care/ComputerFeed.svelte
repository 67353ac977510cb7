<script lang="ts">
	import { watchFeed, type Feed } from '$lib/hardware/this-computer';
	import StateMark from '../StateMark.svelte';

	/** Before something that must not be cut: how this computer is fed, as far as its browser says. */
	let feed = $state.raw<Feed | null>(null);
	$effect(() => watchFeed((told) => (feed = told)));
</script>

{#if feed}
	<p class="mt-2 flex max-w-prose items-start gap-1.5" role="status" aria-label="This computer">
		{#if feed.is === 'battery'}
			<StateMark state="attention" size={11} />
			<span
				><span class="plate">This computer runs on its battery, {feed.percent} % left</span>, as its browser
				says. Plug it in first.</span
			>
		{:else if feed.is === 'mains'}
			<span class="small-print"
				>This computer hangs on the mains, or has no battery, as its browser says.</span
			>
		{:else}
			<span class="small-print">How this computer is fed, its browser does not say: look.</span>
		{/if}
	</p>
{/if}
