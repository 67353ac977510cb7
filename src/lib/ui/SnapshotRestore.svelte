<script lang="ts">
	import { desk } from '../hardware/desk.svelte';
	import type { DryRun, RestoreSource, SnapshotItem } from '../core/drawer';
	import DryRunNote from './DryRunNote.svelte';
	import { outcomeLine } from './outcome-words';
	import { count, duration, problemOf } from './words';

	interface Props {
		runs: (DryRun & { deviceId: string })[];
		items: SnapshotItem[];
		sourceOf: (deviceId: string) => RestoreSource;
	}
	/** The dry run of a restore of many devices, and the restore itself, device after device. */
	let { runs, items, sourceOf }: Props = $props();
	let ready = $state(false);
	let going = $state(false);
	let results = $state.raw<{ deviceId: string; transferId: string | null; says: string }[]>([]);
	const nameOf = (id: string) => items.find(({ deviceId }) => deviceId === id)?.device ?? '';
	/** All that can take it: what is believed never replaces asking, since memory may have been wiped. */
	const possible = $derived(runs.filter(({ impossible }) => impossible.length === 0));
	const needed = $derived(possible.filter(({ overwritten }) => overwritten.length > 0));
	const sum = (of: (run: DryRun) => number) => needed.reduce((total, run) => total + of(run), 0);

	async function go() {
		going = true;
		results = [];
		for (const { deviceId } of possible) {
			const item = items.find((entry) => entry.deviceId === deviceId)!;
			let result: (typeof results)[number];
			try {
				const { transferId, ended } = await desk.begin({
					direction: 'restore',
					deviceId,
					scope: { kind: 'all' },
					kind: 'after restore',
					title: 'From a snapshot',
					versionId: item.versionId,
					source: sourceOf(deviceId),
					resume: null,
					paceFactor: 1
				});
				const state = await ended;
				result = {
					deviceId,
					transferId,
					says: state.ended ? outcomeLine(state.deviceName, state.ended) : ''
				};
			} catch (error) {
				const { message, remedy } = problemOf(error);
				result = { deviceId, transferId: null, says: `${nameOf(deviceId)}: ${message} ${remedy}` };
			}
			results = [...results, result];
		}
		going = false;
	}
</script>

<section aria-label="Dry run" class="mt-6 border-l-4 border-brass pl-4">
	<h2>
		{runs.length === 0
			? 'No chosen device has a sound of that name'
			: needed.length === 0
				? 'Nothing would be sent, by what was last read'
				: `${count(
						sum(({ messages }) => messages),
						'message'
					)} to ${count(needed.length, 'device')}, ${duration(sum(({ ms }) => ms))} on the wire`}
	</h2>
	{#each runs as run (run.deviceId)}
		<details class="mt-2">
			<summary class="cursor-pointer"
				><strong>{nameOf(run.deviceId)}</strong>: {run.overwritten.length === 0
					? 'held it when it was read last'
					: `${count(run.overwritten.length, 'slot')} in ${count(run.messages, 'message')}`}</summary
			>
			<DryRunNote dry={run} />
		</details>
	{/each}
	{#if possible.length > 0}
		<label class="mt-3 flex items-center gap-2"
			><input type="checkbox" class="checkbox checkbox-sm" bind:checked={ready} /> Memory protect is off on all
			of them; exclusive messages are enabled</label
		>
		<button class="btn mt-3 btn-primary" disabled={!ready || going} onclick={go}
			>Ask and restore {count(possible.length, 'device')}</button
		>
		<p class="small-print mt-1">
			Each device is read first. A safety copy is stored before anything is written, only what differs is
			written, and that is read back.
		</p>
	{/if}
	<ul class="mt-2" role="status">
		{#each results as { deviceId, transferId, says } (deviceId)}
			<li>
				{#if transferId}<a class="link-quiet" href={`/transfers/${transferId}`}>{says}</a>{:else}{says}{/if}
			</li>
		{/each}
	</ul>
</section>
