<script lang="ts">
	import { desk } from '$lib/hardware/desk.svelte';
	import { statusOf } from '$lib/ui/outcome-words';
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';
	import { duration, worldWord } from '$lib/ui/words';

	let { data } = $props();
	const waiting = $derived(data.waiting.filter(({ id }) => !desk.runOf(id)));
</script>

<svelte:head><title>Transfers · Silent Drawer</title></svelte:head>

<section aria-label="Begin">
	<h2 class="mb-2">Back up</h2>
	{#if data.devices.length === 0}
		<p>
			No device of the catalogue can be asked for its memory yet. <a class="link-quiet" href="/gear/new"
				>Add one</a
			>.
		</p>
	{:else}
		<ul class="flex flex-wrap gap-2">
			{#each data.devices as device (device.id)}<li>
					<a class="btn max-w-64 btn-sm" href={`/transfers/new?device=${device.id}`}
						><span class="truncate">{device.name}</span></a
					>
				</li>{/each}
		</ul>
	{/if}
	{#if data.devices.length > 1}<p class="mt-3">
			<a class="btn btn-primary" href="/transfers/studio">Back up the whole studio</a>
		</p>{/if}
	<p class="small-print mt-2">
		To restore, open a version in a device’s drawer. To keep a dump file, drop it anywhere.
	</p>
</section>

{#if waiting.length > 0}
	<section aria-label="Unfinished captures" class="mt-5 border-l-4 border-warn pl-4">
		<h2>Unfinished captures</h2>
		<ul class="mt-1 space-y-1">
			{#each waiting as transfer (transfer.id)}
				<li class="flex items-center gap-3">
					<span
						>{transfer.device}, <When at={transfer.startedAt} />: {transfer.received} messages are stored.</span
					>
					<a class="btn btn-primary btn-xs" href={`/transfers/${transfer.id}`}
						>Resume or keep {transfer.device}</a
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}

<section aria-label="Log" class="mt-6">
	<h2 class="mb-1">What came in and went out</h2>
	{#if data.transfers.length === 0}
		<p>Nothing yet.</p>
	{:else}
		<div class="overflow-x-auto">
			<table class="ledger-table">
				<thead
					><tr><th>Device</th><th>What</th><th>Result</th><th>When</th><th class="number">Took</th></tr
					></thead
				>
				<tbody>
					{#each data.transfers as transfer (transfer.id)}
						<tr>
							<td class="plate max-w-48 truncate"
								><a class="link-quiet" href={`/transfers/${transfer.id}`}>{transfer.device}</a></td
							>
							<td class="max-w-72 truncate"
								>{transfer.direction === 'capture' ? 'Capture' : 'Restore'}{transfer.title
									? `: ${transfer.title}`
									: ''}{worldWord(transfer.world, data.world)}</td
							>
							<td
								><span class="flex items-center gap-1.5 whitespace-nowrap"
									><StateMark state={statusOf(transfer).state} size={11} />{statusOf(transfer).word}</span
								></td
							>
							<td><When at={transfer.startedAt} /></td>
							<td class="number"
								>{transfer.endedAt && Date.parse(transfer.endedAt) > Date.parse(transfer.startedAt)
									? duration(Date.parse(transfer.endedAt) - Date.parse(transfer.startedAt))
									: ''}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{/if}
</section>
