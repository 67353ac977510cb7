<script lang="ts">
	import { call } from '../hardware/api';
	import type { CheckReport } from '../core/drawer';
	import ProblemNote from './ProblemNote.svelte';
	import StateMark from './StateMark.svelte';
	import { count, minuteOf, problemOf } from './words';

	let report = $state.raw<CheckReport | null>(null);
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	let checking = $state(false);

	async function check(quarantine: boolean) {
		checking = true;
		problem = null;
		try {
			report = await call<CheckReport>('POST', '/check', { quarantine });
		} catch (error) {
			problem = problemOf(error);
		}
		checking = false;
	}
</script>

<section aria-label="Check">
	<h2>Is everything as it was stored?</h2>
	<p class="small-print mt-1 max-w-prose">
		Every message is read again, compared with its SHA-256, and decoded by the profile revision that read it.
	</p>
	<button class="btn mt-2" disabled={checking} onclick={() => check(false)}
		>{checking ? 'Checking …' : 'Check everything'}</button
	>
	{#if problem}<div class="mt-2"><ProblemNote {problem} /></div>{/if}
	{#if report}
		<p class="mt-3 flex items-center gap-2" role="status">
			<StateMark state={report.damage.length === 0 ? 'verified' : 'danger'} />
			{report.damage.length === 0
				? `Everything is whole: ${count(report.objects, 'message')} in ${count(report.versions, 'version')}, ${report.decoded} decoded.`
				: `${count(report.damage.length, 'fault')} found.`}
		</p>
		{#each report.damage as { device, takenAt, says, versionId }, i (i)}
			<p class="text-rust">
				{device || 'No version'}{takenAt ? `, ${minuteOf(takenAt)}` : ''}: {says}
				{#if versionId}<span class="small-print">version {versionId}</span>{/if}
			</p>
		{/each}
		{#if report.damage.length > 0}
			<button class="btn mt-2 btn-sm" disabled={checking} onclick={() => check(true)}
				>Set what is damaged aside</button
			>
		{/if}
		{#if report.quarantined.length > 0}<p class="small-print mt-1">
				{count(report.quarantined.length, 'content')} set aside; the versions that need them no longer count as
				verified.
			</p>{/if}
	{/if}
</section>
