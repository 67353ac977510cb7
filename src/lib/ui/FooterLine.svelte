<script lang="ts">
	import { desk } from '$lib/hardware/desk.svelte';
	import { notices } from './notices.svelte';
	import { duration } from './words';

	const running = $derived(desk.running);
	const percent = $derived(running ? Math.round(running.progress.share * 100) : 0);
</script>

<footer class="flex h-9 shrink-0 items-center gap-3 border-t border-line bg-ground px-4 text-sm">
	{#if running}
		<a href={`/transfers/${running.transferId}`} class="link-quiet">
			{running.direction === 'capture' ? 'Capturing' : 'Restoring'}
			{running.deviceName}: {running.hands ? 'waiting for you' : running.progress.phase}
		</a>
		<progress class="progress w-36 progress-primary" value={percent} max="100" aria-label="Share that is done"
		></progress>
		<span class="figures">{percent} % · {duration(running.progress.leftMs)} left</span>
		<button class="btn btn-xs" onclick={() => desk.cancel()}>Cancel transfer</button>
	{:else}
		<span class="text-slate">Nothing is running.</span>
	{/if}
	<span class="flex-1"></span>
	<span
		role="status"
		class={[
			'truncate',
			notices.last?.kind === 'bad' && 'text-rust',
			notices.last?.kind === 'good' && 'text-pine'
		]}>{notices.last?.says ?? ''}</span
	>
	{#if notices.last?.undo}
		<button
			class="btn btn-xs"
			onclick={async () => {
				const undo = notices.last?.undo;
				notices.last = null;
				await undo?.run();
			}}>{notices.last.undo.title}</button
		>
	{/if}
</footer>
