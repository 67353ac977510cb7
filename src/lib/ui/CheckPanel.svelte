<script lang="ts">
	import ProblemNote from './ProblemNote.svelte';
	import StateMark from './StateMark.svelte';
	import { StudioCheck } from './studio-check.svelte';
	import { count, minuteOf } from './words';

	const check = new StudioCheck();
	const report = $derived(check.report);
</script>

<section aria-label="Check">
	<h2>Is everything as it was stored?</h2>
	<p class="small-print mt-1 max-w-prose">
		Every message and every sound is read again and compared with its SHA-256; messages are decoded by the
		profile revision that read them, and what each slot is said to hold now is compared with the version by
		which it was seen. Titles, notes and dates of the past have nothing to be compared with.
	</p>
	<div class="mt-2 flex items-center gap-3">
		<button class="btn" disabled={check.running} onclick={() => check.run(false)}
			>{check.running ? 'Checking …' : 'Check everything'}</button
		>
		{#if check.running}
			<progress
				class="progress w-48 progress-info"
				aria-label="How much is checked"
				value={check.progress?.done ?? 0}
				max={check.progress?.of ?? 1}
			></progress>
			<button class="btn btn-ghost" onclick={() => check.cancel()}>Cancel</button>
		{/if}
	</div>
	{#if check.problem}<div class="mt-2"><ProblemNote problem={check.problem} /></div>{/if}
	{#if report}
		<p class="mt-3 flex items-center gap-2" role="status">
			<StateMark state={report.damage.length === 0 ? 'verified' : 'danger'} />
			{report.damage.length === 0
				? `Everything is whole: ${count(report.objects, 'message')} in ${count(report.versions, 'version')}, ${report.decoded} decoded; ${count(report.records, 'sound')}${report.files > 0 ? `; ${count(report.files, 'file')} of maps` : ''}.`
				: `${count(report.damage.length, 'fault')} found.`}
		</p>
		{#if report.healed > 0}<p>
				{count(report.healed, 'damaged sound')} taken anew from the versions that hold {report.healed === 1
					? 'it'
					: 'them'}.
			</p>{/if}
		{#each report.damage as { device, takenAt, says, versionId }, i (i)}
			<p class="text-rust">
				{device || 'No version'}{takenAt ? `, ${minuteOf(takenAt)}` : ''}: {says}
				{#if versionId}<span class="small-print">version {versionId}</span>{/if}
			</p>
		{/each}
		{#if report.stays.length > 0}
			<p class="mt-2 max-w-prose">
				What is said of the slots of {report.stays.map(({ name }) => name).join(', ')} can be rebuilt from their
				messages. A copy of the studio is made first.
			</p>
			<button class="btn mt-1 btn-primary btn-sm" disabled={check.running} onclick={() => check.repair()}
				>Rebuild from the messages</button
			>
		{/if}
		{#if check.copy}<p class="mt-1 max-w-prose break-words">
				Rebuilt. As it was before, it is in {check.copy}.
			</p>{/if}
		{#if report.damage.length > report.stays.length}
			<button class="btn mt-2 btn-sm" disabled={check.running} onclick={() => check.run(true)}
				>Set what is damaged aside</button
			>
		{/if}
		{#if report.quarantined.length > 0}<p class="small-print mt-1">
				{count(report.quarantined.length, 'content')} set aside; the versions that need them no longer count as
				verified.
			</p>{/if}
	{/if}
</section>
