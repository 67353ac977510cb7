<script lang="ts">
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';
	import { count, duration } from '$lib/ui/words';

	let { data } = $props();
</script>

<svelte:head><title>Snapshots · Silent Drawer</title></svelte:head>

<h2>The studio at one moment</h2>
{#if data.snapshots.length === 0}
	<p class="mt-1 max-w-prose">
		A snapshot holds the versions of all devices at one moment, and the settings that no dump holds. The first
		one comes with the first backup of the whole studio.
	</p>
	<a class="btn mt-3 btn-primary" href="/transfers/studio">Back up the whole studio</a>
{:else}
	<table class="ledger-table mt-2">
		<thead
			><tr
				><th>Snapshot</th><th>Taken</th><th>Devices</th><th class="number">Predicted</th><th class="number"
					>Took</th
				></tr
			></thead
		>
		<tbody>
			{#each data.snapshots as snapshot (snapshot.id)}
				<tr>
					<td class="plate"
						><a class="link-quiet" href={`/sounds/snapshots/${snapshot.id}`}
							>{snapshot.title || 'Without a title'}</a
						></td
					>
					<td><When at={snapshot.takenAt} /></td>
					<td
						><span class="flex items-center gap-1.5"
							><StateMark state={snapshot.failed > 0 ? 'attention' : 'verified'} size={11} />{snapshot.kept} kept{snapshot.failed >
							0
								? `, ${snapshot.failed} failed`
								: ''}, {count(snapshot.devices, 'device')} in it</span
						></td
					>
					<td class="number">{duration(snapshot.predictedMs)}</td>
					<td class="number">{snapshot.tookMs === null ? '' : duration(snapshot.tookMs)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}
