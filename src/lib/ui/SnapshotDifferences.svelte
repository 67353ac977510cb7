<script lang="ts">
	import type { DeviceDifference } from '../core/drawer';
	import StateMark from './StateMark.svelte';
	import { count } from './words';

	/** What changed in the whole studio between two snapshots. */
	let { differences }: { differences: DeviceDifference[] } = $props();
	const changed = $derived(differences.filter(({ same, settings }) => same === false || settings.length > 0));
	const tally = ({ states }: DeviceDifference) =>
		Object.entries(states ?? {})
			.map(([state, n]) => `${n} ${state}`)
			.join(', ');
	const told = $derived(
		changed.length === 0 ? 'Nothing changed.' : `${count(changed.length, 'device')} changed.`
	);
</script>

<h3 class="mt-5">{told}</h3>
<p class="sr-only" role="status">{told}</p>
<table class="ledger-table mt-2">
	<thead><tr><th>Device</th><th>What changed</th><th><span class="sr-only">Compare</span></th></tr></thead>
	<tbody>
		{#each differences as difference (difference.deviceId)}
			<tr>
				<td class="plate">{difference.device}</td>
				<td>
					<span class="flex items-center gap-1.5"
						><StateMark
							state={difference.same === false ? 'attention' : difference.same ? 'verified' : 'quiet'}
							size={11}
						/>{difference.same === null
							? difference.before || difference.after
								? 'a version in one of the two only'
								: difference.settings.length > 0
									? 'settings'
									: 'no version in either'
							: difference.same
								? 'the same'
								: tally(difference) || 'other bytes'}</span
					>
					{#if difference.names.length > 0}<span class="small-print block"
							>{difference.names.join(' · ')}</span
						>{/if}
					{#each difference.settings as { label, from, to } (label)}<span class="block text-sm"
							>{label}: {from} → <strong>{to}</strong></span
						>{/each}
				</td>
				<td class="text-right"
					>{#if difference.same === false}<a
							class="btn btn-xs"
							href={`/gear/${difference.deviceId}/drawer?v=${difference.after}&with=${difference.before}`}
							aria-label={`Compare slots of ${difference.device}`}>Compare slots</a
						>{/if}</td
				>
			</tr>
		{/each}
	</tbody>
</table>
