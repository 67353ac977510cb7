<script lang="ts">
	import { tick } from 'svelte';
	import { page } from '$app/state';
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import ChevronUp from '@lucide/svelte/icons/chevron-up';
	import { desk } from '../../hardware/desk.svelte';
	import { otherTabs } from '../../hardware/other-tabs.svelte';
	import { tray } from '../../hardware/tray.svelte';
	import BenchPanel from '../BenchPanel.svelte';
	import { notices } from '../notices.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import TransferLive from '../TransferLive.svelte';
	import { count, duration } from '../words';
	import TrayCheck from './TrayCheck.svelte';
	import TrayGo from './TrayGo.svelte';
	import TrayHistory from './TrayHistory.svelte';
	import TrayOutcome from './TrayOutcome.svelte';
	import TrayRows from './TrayRows.svelte';

	/** What is to be transferred, is being transferred, or was: docked below the page, whatever page is shown. */
	let history = $state(false);
	let heading = $state<HTMLHeadingElement>();
	const runs = $derived([...desk.runs, ...otherTabs.runs]);
	const running = $derived(runs[0] ?? null);
	const percent = $derived(running ? Math.round(running.progress.share * 100) : 0);
	const row = $derived(tray.selected);
	const live = $derived(row?.transferId ? desk.runOf(row.transferId) : null);
	const waiting = $derived(tray.rows.filter(({ state }) => state === 'waiting').length);
	/** The simulated panel, where the page does not show it already. */
	const unit = $derived(
		desk.world === 'bench' && row && page.url.pathname !== `/gear/${row.deviceId}/ports`
			? (tray.checkOf(row)?.checked?.line.unit?.id ?? null)
			: null
	);
	const over = $derived(tray.rows.some(({ state }) => state === 'over'));
	/** What the tray is about, when nothing runs. */
	const idle = $derived(
		tray.openRows.length > 0 ? `${count(tray.openRows.length, 'transfer')} to check` : 'Nothing is running'
	);
	// A row that was put in takes the hand along, unless it is in the middle of something.
	$effect(() => {
		if (tray.added === 0) return;
		history = false;
		void tick().then(() => heading?.focus());
	});
	function keys(event: KeyboardEvent) {
		if (event.key !== 'Escape' || event.defaultPrevented) return;
		event.stopPropagation();
		tray.open = false;
	}
</script>

{#if tray.open}
	<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
	<section class="tray" aria-label="Tray" onkeydown={keys}>
		<header class="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
			<h2 bind:this={heading} tabindex="-1" class="mr-2">Tray</h2>
			<div class="flex flex-1 gap-1" role="group" aria-label="What the tray shows">
				<button
					class={['btn btn-xs', !history && 'is-chosen']}
					aria-pressed={!history}
					onclick={() => (history = false)}
					>Transfers{tray.rows.length > 0 ? ` (${tray.rows.length})` : ''}</button
				>
				<button
					class={['btn btn-xs', history && 'is-chosen']}
					aria-pressed={history}
					onclick={() => (history = true)}>What happened</button
				>
			</div>
			{#if over && !history}<button class="btn btn-xs" onclick={() => tray.clear()}>Clear what is over</button
				>{/if}
			<button
				class="btn btn-square btn-ghost btn-sm"
				aria-label="Close the tray"
				onclick={() => (tray.open = false)}><ChevronDown size={17} /></button
			>
		</header>
		{#if history}
			<TrayHistory />
		{:else if !row}
			<p class="px-4 py-5">
				Nothing is in the tray. Back up a device from its drawer, or restore a version from there: it is
				checked here first.
			</p>
		{:else}
			<div
				class={['tray-body', tray.rows.length > 1 && 'has-rows', unit && row.state !== 'over' && 'has-panel']}
			>
				{#if tray.rows.length > 1}<TrayRows />{/if}
				<div class="min-w-0 overflow-y-auto px-4 py-3">
					{#if tray.problem}<ProblemNote problem={tray.problem} />{/if}
					{#key row.key}
						{#if row.state === 'open'}<TrayCheck {row} />
						{:else if live}<h3 class="mb-2">
								{row.direction === 'capture' ? 'Backup' : 'Restore'} of {row.name}
							</h3>
							<TransferLive state={live} />
						{:else if row.state === 'over'}<TrayOutcome {row} />
						{:else if row.state === 'waiting'}<p>{row.name} waits for its turn.</p>
						{:else}<p>{row.name}: it runs, and its page has not said how far it is.</p>{/if}
					{/key}
				</div>
				{#if unit && row.state !== 'over'}
					<section aria-label="Front panel" class="overflow-y-auto border-l border-line px-3 py-3">
						<BenchPanel unitId={unit} />
					</section>
				{/if}
			</div>
			<TrayGo />
		{/if}
	</section>
{/if}

<footer class="flex h-9 shrink-0 items-center gap-3 border-t border-line bg-ground px-4 text-sm">
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
			class="progress w-36 shrink-0 progress-primary"
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
			notices.last?.kind === 'bad' && 'text-rust',
			notices.last?.kind === 'good' && 'text-pine'
		]}>{notices.last?.says ?? ''}</span
	>
	{#if notices.last?.undo && notices.last.undone !== 'done'}
		{@const told = notices.last}
		<button class="btn btn-xs" onclick={() => notices.undo(told)}>{told.undo!.title}</button>
	{/if}
</footer>

<style>
	.tray {
		display: flex;
		flex-direction: column;
		min-height: 0;
		flex: 0 1 auto;
		max-height: 58%;
		border-top: 3px solid var(--color-brass);
		background: var(--color-sheet);
	}
	.tray-body {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		min-height: 0;
		overflow: hidden;
	}
	.tray-body.has-rows {
		grid-template-columns: 15rem minmax(0, 1fr);
	}
	.tray-body.has-panel {
		grid-template-columns: minmax(0, 1fr) 21rem;
	}
	.tray-body.has-rows.has-panel {
		grid-template-columns: 13rem minmax(0, 1fr) 19rem;
	}
	.is-chosen {
		border-bottom: 2px solid var(--color-brass);
	}
	@media (max-width: 899px) {
		.tray {
			position: fixed;
			inset: 0;
			z-index: 25;
			max-height: none;
		}
		.tray-body,
		.tray-body.has-rows,
		.tray-body.has-panel,
		.tray-body.has-rows.has-panel {
			display: block;
			flex: 1;
			overflow-y: auto;
		}
	}
</style>
