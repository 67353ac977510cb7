<script lang="ts">
	import { Doing } from '../doing.svelte';
	import type { TransferResult } from '../../core/drawer';
	import { call } from '../../hardware/api';
	import { tray } from '../../hardware/tray.svelte';
	import type { TrayRow } from '../../hardware/tray-row';
	import ProblemNote from '../ProblemNote.svelte';
	import TransferOutcome from '../TransferOutcome.svelte';
	import { putInTray } from './put';

	/** How a transfer of the tray ended, what its panel is set back to, and the next step. */
	let { row }: { row: TrayRow } = $props();
	let result = $state.raw<TransferResult | null>(null);
	const doing = new Doing();

	async function look(id: string) {
		await doing.run(async () => {
			result = await call<TransferResult>('GET', `/transfers/${id}/result`);
		});
	}
	$effect(() => {
		if (row.transferId) void look(row.transferId);
	});
	/** What its panel is, or was, to be set back to. */
	const after = $derived(
		(result?.after ?? []).filter(({ id }) => row.owes.includes(id) || row.setBack.includes(id))
	);
	async function again() {
		await putInTray(row.ask);
	}
	const left = $derived(tray.openRows.length);
</script>

<h3 class="text-lg">{row.direction === 'capture' ? 'Backup' : 'Restore'} of {row.name}</h3>
{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
{#if !row.transferId}
	<section class="mt-2" aria-label="Result">
		<p>{row.says}</p>
		<button class="btn mt-2 btn-primary btn-sm" onclick={again}>Try again</button>
	</section>
{:else if result}
	{#if after.length > 0}
		<fieldset class="mt-3 border-l-4 border-line pl-3">
			<legend class="small-print">Set back on the panel of {row.name}</legend>
			{#each after as { id, says } (id)}
				<label class="flex items-start gap-2 py-0.5"
					><input
						type="checkbox"
						class="checkbox mt-0.5 checkbox-sm"
						checked={row.setBack.includes(id)}
						onchange={(event) => tray.setBack(row, id, event.currentTarget.checked)}
					/>
					{says}</label
				>
			{/each}
			{#if row.owes.length > 0}<p class="small-print">It stays here until it is ticked.</p>{/if}
		</fieldset>
	{/if}
	<TransferOutcome {result} changed={() => look(row.transferId!)} />
	<p class="mt-2"><a class="link-quiet" href={`/transfers/${row.transferId}`}>Its log, with every byte</a></p>
	{#if left > 0}<p class="small-print mt-2">
			{left} more in the tray {left === 1 ? 'is' : 'are'} still to begin.
		</p>{/if}
{/if}
{#if tray.snapshotId}<p class="mt-2">
		<a class="link-quiet" href={`/sounds/snapshots/${tray.snapshotId}`}>Open the snapshot of this backup</a>
	</p>{/if}
