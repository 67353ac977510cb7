<script lang="ts">
	import { Doing } from './doing.svelte';
	import type { Retention } from '../core/drawer';
	import { call } from '../hardware/api';
	import type { KeepingPreview } from '../core/drawer';
	import { notices } from './notices.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import { refresh } from './refresh';
	import When from './When.svelte';
	import { count, weight } from './words';

	/** Which old versions may go, with a look first. */
	let { rules: given }: { rules: Retention } = $props();
	// svelte-ignore state_referenced_locally
	let rules = $state({ ...given });
	let preview = $state.raw<KeepingPreview | null>(null);
	const doing = new Doing();
	let sure = $state(false);
	const FIELDS = [
		['keepAllDays', 'Keep everything for … days'],
		['weeklyDays', 'then the newest of each week until … days'],
		['monthlyDays', 'then the newest of each month until … days (0: for ever)'],
		['safetyDays', 'Keep safety copies for … days']
	] as const;

	const look = () =>
		doing.run(async () => {
			sure = false;
			rules = await call<Retention>('PUT', '/retention', rules);
			preview = await call<KeepingPreview>('POST', '/retention/preview', rules);
		});
	const apply = () =>
		doing.run(async () => {
			const versions = preview!.going.map(({ id }) => id);
			const { gone, freedBytes } = await call<{ gone: number; freedBytes: number }>(
				'POST',
				'/retention/apply',
				{ rules, versions }
			);
			preview = null;
			await refresh();
			notices.say(`${count(gone, 'version')} let go, ${weight(freedBytes)} free.`, 'good');
		});
</script>

<section aria-label="Old versions">
	<h2>Old versions</h2>
	<p class="small-print mt-1 max-w-prose">
		Never let go: the newest and the last verified version of a device, pinned and imported ones, what a
		snapshot or a bank needs, and young safety copies. Nothing goes by itself.
	</p>
	<form
		class="mt-3 flex flex-wrap items-end gap-4"
		onsubmit={(event) => (event.preventDefault(), void look())}
	>
		{#each FIELDS as [field, title] (field)}
			<div class="field w-52">
				<label for={field}>{title}</label>
				<input
					id={field}
					class="input w-24 input-sm"
					type="number"
					min={field === 'monthlyDays' || field === 'weeklyDays' ? 0 : 1}
					max="36500"
					required
					bind:value={rules[field]}
				/>
			</div>
		{/each}
		<button class="btn" disabled={doing.busy}>See what could go</button>
	</form>
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
	{#if preview}
		<p class="mt-3" role="status">
			{preview.going.length === 0
				? `Nothing would go; all ${preview.staying} versions stay.`
				: `${count(preview.going.length, 'version')} would go and free ${weight(preview.freedBytes)}; ${preview.staying} stay.${preview.soundsLost > 0 ? ` ${count(preview.soundsLost, 'sound')} would then be found only in the versions that remain, if they are there.` : ''}`}
		</p>
		{#if preview.going.length > 0}
			<ul class="mt-2 max-h-56 overflow-y-auto text-sm md:columns-2">
				{#each preview.going as version (version.id)}
					<li class="truncate">
						<strong>{version.device}</strong>
						<When at={version.takenAt} />
						{version.title} <span class="small-print">{version.why}</span>
					</li>
				{/each}
			</ul>
			<label class="mt-3 flex items-center gap-2"
				><input type="checkbox" class="checkbox checkbox-sm" bind:checked={sure} /> A copy of the studio is on another
				disk, or I do not need these any more</label
			>
			<button class="btn mt-2" disabled={!sure || doing.busy} onclick={apply}
				>Let {count(preview.going.length, 'version')} go</button
			>
		{/if}
	{/if}
</section>
