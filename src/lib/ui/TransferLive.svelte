<script lang="ts">
	import type { SessionState } from '$lib/hardware/session-state';
	import { desk } from '$lib/hardware/desk.svelte';
	import { count, duration, groupHex } from './words';

	/** A transfer while it runs. */
	let { state }: { state: SessionState } = $props();
	const progress = $derived(state.progress);
	const PHASES = {
		identity: 'Asking who is there',
		'safety copy': 'Keeping what will be overwritten',
		send: 'Sending',
		'read back': 'Reading back to compare',
		capture: 'Receiving'
	} as Record<string, string>;
</script>

<section aria-label="Progress">
	{#if state.hands}
		<div class="mb-4 border-l-4 border-brass bg-ground p-4" role="alert">
			<p class="plate text-xl">{state.hands}</p>
			<p class="small-print">The app listens, and goes on by itself.</p>
		</div>
	{/if}
	<h2>{PHASES[progress.phase] ?? progress.phase}</h2>
	<progress
		class="progress mt-2 h-4 w-full progress-info"
		value={progress.share * 100}
		max="100"
		aria-label={`${PHASES[progress.phase] ?? progress.phase}: share that is done`}
	></progress>
	<dl class="mt-2 grid grid-cols-2 gap-x-6 gap-y-1 sm:grid-cols-4">
		<div>
			<dt class="small-print">Messages</dt>
			<dd class="figures text-lg">{progress.messagesDone} of {progress.messages}</dd>
		</div>
		<div>
			<dt class="small-print">Bytes</dt>
			<dd class="figures text-lg">
				{progress.doneBytes.toLocaleString('en')} of {progress.totalBytes.toLocaleString('en')}
			</dd>
		</div>
		<div>
			<dt class="small-print">Rate</dt>
			<dd class="figures text-lg">
				{Math.round(progress.bytesPerSecond).toLocaleString('en')} B/s
				<span class="small-print block">{Math.round(progress.wireShare * 100)} % of the wire</span>
			</dd>
		</div>
		<div>
			<dt class="small-print">Time left</dt>
			<dd class="figures text-lg">{duration(progress.leftMs)}</dd>
		</div>
	</dl>
	<p class="mt-3 flex items-center gap-4">
		<button class="btn" onclick={() => desk.cancel(state.transferId)}>Cancel</button>
		<span class="small-print">
			{#if state.direction === 'capture'}{count(state.stored, 'message')} safely stored{state.received >
				state.stored
					? `, ${state.received - state.stored} on the way`
					: ''}.{/if}
			{state.retries.length > 0
				? `${count(state.retries.length, 'retry', 'retries')}, last: ${state.retries.at(-1)}.`
				: ''}
		</span>
	</p>
	{#if state.storing}<p class="mt-2 text-rust" role="alert">
			{state.storing.message}
			{state.storing.remedy} It is tried again every second.
		</p>{/if}
	{#if state.through.length > 0}
		<ul class="mt-4 grid grid-cols-2 gap-x-4 text-sm sm:grid-cols-4" aria-label="Slots so far">
			{#each state.through.slice(-64) as slot (slot.area + slot.label)}<li class="truncate">
					<span class="font-mono text-xs text-slate">{slot.label}</span>
					{slot.name ?? ''}
				</li>{/each}
		</ul>
	{/if}
	<h3 class="mt-5">On the wire</h3>
	<ol class="mt-1 font-mono text-xs leading-5">
		{#each state.log.slice(-8).toReversed() as line, i (i)}
			<li class="truncate">
				<span class="text-slate"
					>{(line.atMs / 1000).toFixed(3)} s {line.way === 'sent'
						? '→'
						: line.way === 'received'
							? '←'
							: '·'}</span
				>
				{line.says}
				<span class="text-slate">{groupHex(line.hex.slice(0, 48))}{line.hex.length > 48 ? ' …' : ''}</span>
			</li>
		{/each}
	</ol>
</section>
