<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import ChevronUp from '@lucide/svelte/icons/chevron-up';
	import { desk } from '../../hardware/desk.svelte';
	import { otherTabs } from '../../hardware/other-tabs.svelte';
	import { tray } from '../../hardware/tray.svelte';
	import { notices } from '../notices.svelte';
	import { wallClock } from '../clock.svelte';
	import When from '../When.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import { count, duration, problemOf } from '../words';

	/** What is to be transferred, is being transferred, or was: docked below the page, whatever page is shown. */
	const runs = $derived([...desk.runs, ...otherTabs.runs]);
	const running = $derived(runs[0] ?? null);
	const percent = $derived(running ? Math.round(running.progress.share * 100) : 0);
	const waiting = $derived(tray.rows.filter(({ state }) => state === 'waiting').length);
	/** What the tray is about, when nothing runs. */
	const idle = $derived(
		tray.openRows.length > 0 ? `${count(tray.openRows.length, 'transfer')} to check` : 'Nothing is running'
	);
	/** What was said a while ago is not news any more. */
	const STALE_MS = 60_000;
	const stale = $derived(notices.last !== null && wallClock.now - Date.parse(notices.last.at) > STALE_MS);
	// Fetched when it is unfolded first: a page that transfers nothing needs none of it.
	const panel = $derived(tray.open ? import('./TrayPanel.svelte') : null);
</script>

{#if panel}
	{#await panel then { default: TrayPanel }}<TrayPanel />{:catch error}<ProblemNote
			problem={problemOf(error)}
		/>{/await}
{/if}

<footer class="flex min-h-9 shrink-0 items-center gap-3 border-t border-line bg-ground px-4 text-sm">
	<button
		class="btn btn-xs"
		aria-expanded={tray.open}
		aria-label={tray.open ? 'Close the tray' : 'Open the tray'}
		onclick={() => (tray.open = !tray.open)}
		>{#if tray.open}<ChevronDown size={14} />{:else}<ChevronUp size={14} />{/if} Tray</button
	>
	{#if running}
		<span class="truncate"
			>{running.direction === 'capture' ? 'Backing up' : 'Restoring'}
			{running.deviceName}{runs.length > 1 ? ` and ${runs.length - 1} more` : ''}{waiting > 0
				? `, ${waiting} waiting`
				: ''}: {running.hands ? 'waiting for you' : running.progress.phase}</span
		>
		<progress
			class="progress w-36 shrink-0 progress-info"
			value={percent}
			max="100"
			aria-label="Share that is done"
		></progress>
		<span class="figures shrink-0">{percent} % · {duration(running.progress.leftMs)} left</span>
		<button class="btn btn-xs" onclick={() => (tray.going ? tray.stop() : desk.cancel(running.transferId))}
			>{runs.length + waiting > 1 ? 'Stop all' : 'Stop'}</button
		>
	{:else}
		<span class="shrink-0 text-slate">{idle}.</span>
	{/if}
	<span class="flex-1"></span>
	<span
		role="status"
		class={[
			'truncate',
			stale
				? 'text-slate'
				: notices.last?.kind === 'bad'
					? 'text-rust'
					: notices.last?.kind === 'good' && 'text-pine'
		]}>{notices.last?.says ?? ''}</span
	>
	{#if notices.last && stale}<span class="small-print shrink-0 max-sm:hidden"
			><When at={notices.last.at} /></span
		>{/if}
	{#if notices.last?.undo && ['no', 'failed'].includes(notices.last.undone)}
		{@const told = notices.last}
		<button class="btn btn-xs" onclick={() => notices.undo(told)}>{told.undo!.title}</button>
	{/if}
	{#if notices.last}<button
			class="btn btn-xs max-sm:hidden"
			onclick={() => {
				notices.reading = true;
				tray.open = true;
			}}>History</button
		>{/if}
</footer>
