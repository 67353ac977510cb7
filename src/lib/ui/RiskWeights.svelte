<script lang="ts">
	import { attempt } from './attempt';
	import { RISK_WEIGHTS, riskSettingsSchema, type RiskSettings } from '../core/care';
	import { call } from '../hardware/api';
	import { notices } from './notices.svelte';
	import { refresh } from './refresh';

	/** The parts of the risk and what each weighs. */
	let { risk }: { risk: RiskSettings } = $props();
	const WORDS: Record<keyof typeof RISK_WEIGHTS, string> = {
		never: 'Never backed up',
		unproved: 'Slots that were never read with a proof',
		changed: 'Changed since it was read',
		torn: 'A restore broke off',
		question: 'Its last backup looks wiped or like another one’s',
		sent: 'Sent and not read back',
		unfinished: 'A capture broke off',
		age: 'Age of its weakest slot’s proof, at most',
		battery: 'Memory battery at the end of its life',
		due: 'Your own reminder is due',
		updating: 'A new system is being sent, or broke off',
		update: 'An update is planned, no fresh backup',
		fault: 'A known fault that can cost sounds',
		service: 'Service is overdue'
	};

	async function save(settings: RiskSettings) {
		await attempt(async () => {
			await call('PUT', '/risk', settings);
			await refresh();
			notices.say('The risk is counted with these weights now.', 'good');
		});
	}
</script>

<section aria-label="How the risk is counted">
	<h2>How the risk is counted</h2>
	<p class="small-print mt-1">The sum of these points; from 15 in one part on a device counts as at risk.</p>
	<dl class="mt-2">
		{#each Object.entries(WORDS) as [id, says] (id)}
			<div class="flex items-center gap-3 border-b border-line py-1">
				<dt class="flex-1"><label for={`weight-${id}`}>{says}</label></dt>
				<dd>
					<input
						id={`weight-${id}`}
						class="input w-20 input-sm"
						type="number"
						min="0"
						max="200"
						value={risk.weights[id as keyof typeof RISK_WEIGHTS]}
						onchange={(event) =>
							void save({ ...risk, weights: { ...risk.weights, [id]: Number(event.currentTarget.value) } })}
					/>
				</dd>
			</div>
		{/each}
		<div class="flex items-center gap-3 py-1">
			<dt class="flex-1"><label for="age-full">Days until age counts fully</label></dt>
			<dd>
				<input
					id="age-full"
					class="input w-20 input-sm"
					type="number"
					min="1"
					max="3650"
					value={risk.ageFullDays}
					onchange={(event) => void save({ ...risk, ageFullDays: Number(event.currentTarget.value) })}
				/>
			</dd>
		</div>
	</dl>
	<button class="btn mt-2 btn-xs" onclick={() => save(riskSettingsSchema.parse({}))}>As usual again</button>
</section>
