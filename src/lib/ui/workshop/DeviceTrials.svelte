<script lang="ts">
	import type { DeviceTrial } from '../../core/drawer';
	import type { Profile } from '../../core/profile';
	import { call } from '../../hardware/api';
	import { Doing } from '../doing.svelte';
	import { notices } from '../notices.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import { refresh } from '../refresh';
	import StateMark from '../StateMark.svelte';
	import { putInTray } from '../tray/put';
	import When from '../When.svelte';
	import { withReport } from './with-report';

	/** A profile that is tried on its device: one slot asked for again, written back to where it is, and read. */
	let {
		device,
		profile,
		trials
	}: { device: { id: string; name: string }; profile: Profile; trials: DeviceTrial[] } = $props();
	const doing = new Doing();
	const canTry = $derived(
		profile.areas.some(({ id }) =>
			[profile.capture, profile.restore].every((ways) => ways.some(({ area }) => area === id))
		)
	);
	const isKept = ({ report }: DeviceTrial) =>
		profile.tried?.some(({ at, onDevice }) => onDevice && at === report?.at) ?? false;

	const keep = (trial: DeviceTrial) =>
		doing.run(async () => {
			const saved = await call<Profile>(
				'POST',
				'/profiles',
				JSON.parse(withReport(JSON.stringify(profile), trial.report!))
			);
			await refresh();
			notices.say(`The report is kept with the profile, as its revision ${saved.revision}.`, 'good');
		});
</script>

{#if canTry}
	<section class="mt-6" aria-label="Tried on the instrument">
		<div class="flex flex-wrap items-center gap-3">
			<h2 class="flex-1">Tried on the instrument</h2>
			<button class="btn btn-sm" onclick={() => void putInTray(`device=${device.id}&try=1`)}
				>Try it on {device.name}</button
			>
		</div>
		<p class="small-print mt-1 max-w-prose">
			One slot whose content is known is asked for again and must come alike; it is kept as a safety copy,
			written back to where it was, and read once more. That shows that nothing is harmed. A write that the
			instrument ignores in silence looks the same: that it takes something else is shown by the first
			restore.
		</p>
		{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
		<ul class="mt-2">
			{#each trials as trial (trial.transferId)}
				<li class="flex flex-wrap items-baseline gap-2 py-0.5">
					<StateMark state={trial.report ? 'verified' : 'attention'} size={11} />
					<span
						><When at={trial.at} />{trial.world === 'bench' ? ', on the bench' : ''}{trial.revision === null
							? ''
							: `, revision ${trial.revision}`}: {trial.slot}{trial.name ? ` (${trial.name})` : ''}
						{trial.report
							? 'came alike twice, was written back, and read as it was.'
							: `was not tried to the end. ${trial.reason ?? ''}`}</span
					>
					{#if trial.report && !isKept(trial) && trial.revision === profile.revision}<button
							class="btn btn-xs"
							disabled={doing.busy}
							onclick={() => keep(trial)}>Keep this report with the profile</button
						>{/if}
				</li>
			{/each}
		</ul>
	</section>
{/if}
