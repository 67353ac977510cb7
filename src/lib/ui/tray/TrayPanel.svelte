<script lang="ts">
	import { tick } from 'svelte';
	import { page } from '$app/state';
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import { desk } from '../../hardware/desk.svelte';
	import { tray } from '../../hardware/tray.svelte';
	import { notices } from '../notices.svelte';
	import BenchPanel from '../BenchPanel.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import TransferLive from '../TransferLive.svelte';
	import TrayCheck from './TrayCheck.svelte';
	import TrayGo from './TrayGo.svelte';
	import TrayHistory from './TrayHistory.svelte';
	import TrayOutcome from './TrayOutcome.svelte';
	import TrayRows from './TrayRows.svelte';

	/** The tray unfolded: rows, the check or progress or proof of one of them, and the one next action. */
	const history = $derived(notices.reading);
	let heading = $state<HTMLHeadingElement>();
	const row = $derived(tray.selected);
	const live = $derived(row?.transferId ? desk.runOf(row.transferId) : null);
	/** The simulated panel, where the page does not show it already. */
	const unit = $derived(
		desk.world === 'bench' && row && page.url.pathname !== `/gear/${row.deviceId}/ports`
			? (tray.checkOf(row)?.checked?.line.unit?.id ?? null)
			: null
	);
	const over = $derived(tray.rows.some(({ state }) => state === 'over'));
	// A row that was put in takes the hand along.
	$effect(() => {
		if (tray.added === 0) return;
		notices.reading = false;
		void tick().then(() => heading?.focus());
	});
	function keys(event: KeyboardEvent) {
		if (event.key !== 'Escape' || event.defaultPrevented) return;
		event.stopPropagation();
		tray.open = false;
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<section class="tray" aria-label="Tray" onkeydown={keys}>
	<header class="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
		<h2 bind:this={heading} tabindex="-1" class="mr-2">Tray</h2>
		<div class="flex flex-1 gap-1" role="group" aria-label="What the tray shows">
			<button
				class={['btn btn-xs', !history && 'is-chosen']}
				aria-pressed={!history}
				onclick={() => (notices.reading = false)}
				>Transfers{tray.rows.length > 0 ? ` (${tray.rows.length})` : ''}</button
			>
			<button
				class={['btn btn-xs', history && 'is-chosen']}
				aria-pressed={history}
				onclick={() => (notices.reading = true)}>What happened</button
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
			Nothing is in the tray. Back up a device from its drawer, or restore a version from there: it is checked
			here first.
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
