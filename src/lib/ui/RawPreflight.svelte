<script lang="ts">
	import { count } from './words';

	interface Props {
		restoring: boolean;
		messages: number;
		twice: boolean;
		starting: boolean;
		start: () => void;
	}
	/** Before a transfer with a device that no profile describes. */
	let { restoring, messages, twice = $bindable(), starting, start }: Props = $props();
	let ready = $state(false);
</script>

<section class="card-preflight" aria-label="Before it starts">
	<h2>Before it starts</h2>
	<p class="mt-1 max-w-prose">
		This device has no profile. {restoring
			? `${count(messages, 'message')} will be sent exactly as they were kept, with a rest after each. Nothing can be read back: look at the display afterwards.`
			: 'Everything that it sends is kept byte for byte, until it falls silent.'}
	</p>
	<label class="mt-3 flex items-center gap-2"
		><input type="checkbox" class="checkbox checkbox-sm" bind:checked={ready} />
		{restoring
			? 'Memory protect is off, and exclusive messages are enabled'
			: 'I know how to start a dump on its panel'}</label
	>
	{#if !restoring}
		<label class="mt-2 flex items-center gap-2"
			><input type="checkbox" class="checkbox checkbox-sm" bind:checked={twice} /> Listen twice and compare: only
			then it counts as verified</label
		>
	{/if}
	<button class="btn mt-4 btn-primary" disabled={!ready || starting} onclick={start}
		>{restoring ? 'Send' : 'Listen'}</button
	>
</section>
