<script lang="ts">
	import { attempt } from './attempt';
	import { call } from '../hardware/api';
	import { notices } from './notices.svelte';
	import { refresh } from './refresh';

	interface Row {
		id: string;
		name: string;
		remindDays?: number | null;
		points: number;
		says: string;
		readable: boolean;
	}
	/** When a backup of each device is due; nothing is ever sent by itself. */
	let { devices }: { devices: Row[] } = $props();

	async function set(device: Row, text: string) {
		const days = text.trim() === '' ? null : Number(text);
		await attempt(async () => {
			await call('PUT', `/devices/${device.id}/reminder`, { days });
			await refresh();
			notices.say(
				days
					? `${device.name} is due every ${days === 1 ? 'day' : `${days} days`}.`
					: `${device.name} is due by its risk.`,
				'good'
			);
		});
	}
</script>

<section aria-label="Reminders">
	<h2>Reminders</h2>
	<p class="small-print mt-1 max-w-prose">
		Today lists what is due. Without a number of days the risk decides. Nothing is ever sent by itself.
	</p>
	<div class="overflow-x-auto">
		<table class="ledger-table mt-2">
			<thead><tr><th>Device</th><th>Now</th><th class="number">Risk</th><th>Due every … days</th></tr></thead>
			<tbody>
				{#each devices as device (device.id)}
					<tr>
						<td class="plate max-w-40 truncate">{device.name}</td>
						<td class="small-print max-w-56 truncate">{device.says}</td>
						<td class="number">{device.points}</td>
						<td
							>{#if device.readable}<input
									class="input w-20 input-sm"
									type="number"
									min="1"
									max="3650"
									aria-label={`Days between backups of ${device.name}`}
									placeholder="by risk"
									value={device.remindDays ?? ''}
									onchange={(event) => void set(device, event.currentTarget.value)}
								/>{:else}<span class="small-print">cannot be asked</span>{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
</section>
