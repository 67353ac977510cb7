<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import { desk } from '../../hardware/desk.svelte';
	import { tray } from '../../hardware/tray.svelte';
	import type { TrayRow } from '../../hardware/tray-row';
	import { roving } from '../roving';
	import StateMark, { type Mark } from '../StateMark.svelte';

	/** The rows of the tray, place by place. */
	const places = $derived([...new Set(tray.rows.map(({ place }) => place))].sort());
	const wordOf = (row: TrayRow): { word: string; state: Mark } => {
		if (row.state === 'running') {
			const run = row.transferId ? desk.runOf(row.transferId) : null;
			return {
				word: run ? (run.hands ? 'waits for you' : `${Math.round(run.progress.share * 100)} %`) : 'runs',
				state: run?.hands ? 'attention' : 'going'
			};
		}
		if (row.state === 'waiting') return { word: 'waits for its turn', state: 'quiet' };
		if (row.state === 'over' && row.owes.length > 0)
			return { word: 'set its panel back', state: 'attention' };
		if (row.state === 'over')
			return { word: row.good ? 'done' : 'look at it', state: row.good ? 'verified' : 'attention' };
		const hold = tray.holdOf(row);
		return hold
			? {
					word:
						hold.kind === 'ticks'
							? 'to look at on its panel'
							: hold.kind === 'line'
								? 'not reached'
								: 'not ready',
					state: 'attention'
				}
			: { word: 'can begin', state: 'quiet' };
	};
</script>

<nav
	aria-label="Rows of the tray"
	class="overflow-y-auto border-r border-line py-2"
	{@attach roving('button.row')}
>
	{#each places as place (place)}
		<p class="small-print px-3">{place || 'No place'}</p>
		<ul>
			{#each tray.rows.filter((row) => row.place === place) as row (row.key)}
				{@const { word, state } = wordOf(row)}
				<li class="flex items-center">
					<button
						class={['row', tray.selected?.key === row.key && 'is-shown']}
						aria-current={tray.selected?.key === row.key ? 'true' : undefined}
						onclick={() => tray.select(row.key)}
					>
						<span class="plate block truncate">{row.name}</span>
						<span class="small-print flex items-center gap-1"
							><StateMark {state} size={10} />{row.direction === 'capture' ? 'backup' : 'restore'}: {word}</span
						>
					</button>
					{#if tray.isLoose(row)}
						<button
							class="btn btn-square btn-ghost btn-xs"
							aria-label={`Take ${row.name} out of the tray`}
							onclick={() => tray.remove(row.key)}><X size={13} /></button
						>
					{/if}
				</li>
			{/each}
		</ul>
	{/each}
</nav>

<style>
	.row {
		flex: 1;
		min-width: 0;
		padding: 3px 10px 4px;
		border-left: 4px solid transparent;
		text-align: left;
	}
	.row:hover {
		background: var(--color-ground);
	}
	.row.is-shown {
		border-left-color: var(--color-chosen);
		background: var(--color-ground);
	}
</style>
