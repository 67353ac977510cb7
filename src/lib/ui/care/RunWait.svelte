<script lang="ts">
	import type { ProcedureStep } from '$lib/core/care';
	import { untrack } from 'svelte';
	import { duration } from '../words';
	import type { RunOnPage } from './open-run.svelte';

	/** A wait with a clock, during which nothing is touched. */
	let { open, step }: { open: RunOnPage; step: Extract<ProcedureStep, { by: 'wait' }> } = $props();
	let now = $state(Date.now());
	const left = $derived(
		open.now.begun === null ? null : Date.parse(open.now.begun) + step.seconds * 1000 - now
	);
	$effect(() => {
		const timer = setInterval(() => (now = Date.now()), 500);
		return () => clearInterval(timer);
	});
	/** The end is the server's to say, by its own clock; it is asked once, and again by hand. */
	let asked = $state(false);
	$effect(() => {
		if (left === null || left > 0 || asked) return;
		asked = true;
		untrack(() => void open.act({ do: 'done', step: step.id }));
	});
</script>

{#if left === null}
	<button
		class="btn mt-3 btn-primary btn-sm print:hidden"
		disabled={open.doing.busy}
		onclick={() => void open.act({ do: 'begin', step: step.id })}
		>Begin to wait, {duration(step.seconds * 1000)}</button
	>
{:else}
	<p class="mt-2 text-lg" role="timer">
		<span class="plate">Do not touch anything:</span>
		<span class="figures">{duration(Math.max(0, left))}</span> left
	</p>
	{#if left <= 0}<button
			class="btn mt-2 btn-primary btn-sm"
			disabled={open.doing.busy}
			onclick={() => void open.act({ do: 'done', step: step.id })}>It is over</button
		>{/if}
{/if}
