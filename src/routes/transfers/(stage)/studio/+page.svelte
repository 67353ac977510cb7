<script lang="ts">
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import { planStudio } from '$lib/hardware/plan-studio';
	import { tray } from '$lib/hardware/tray.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { putInTray } from '$lib/ui/tray/put';
	import { count, duration } from '$lib/ui/words';

	let { data } = $props();
	const plan = $derived.by(() => {
		void midiDesk.remembered;
		return planStudio(data.candidates[desk.world], data.places, desk.world, tray.here);
	});
	const blank = $derived(plan.left.filter(({ why }) => why.startsWith('It has no profile')));
	const check = () => void putInTray(...plan.jobs.map(({ id }) => `device=${id}`));

	$effect(() => pageKeys.add([{ key: 'b', says: 'Check the backup of the whole studio', run: check }]));
</script>

<svelte:head><title>Whole studio · Silent Drawer</title></svelte:head>

{#if plan.jobs.length === 0}
	<h2>
		Nothing can be backed up {desk.world === 'bench' ? 'on the bench' : 'over the computer’s ports'} yet
	</h2>
	<p class="mt-1 max-w-prose">
		A device needs a profile that can ask for its memory, and a way back to the computer. What is plugged in
		is found with its cables.
	</p>
	<p class="mt-3 flex gap-2">
		<a class="btn btn-primary" href="/gear/find?now">Find what is plugged in</a><a
			class="btn"
			href="/gear/new">Add a device by hand</a
		>
	</p>
{:else}
	<div class="flex flex-wrap items-end gap-4">
		<div class="min-w-0 flex-1">
			<h2>{count(plan.jobs.length, 'device')}, about {duration(plan.predictedMs / desk.factor)}</h2>
			<p class="small-print">
				{count(new Set(plan.jobs.map(({ lanes }) => lanes.at(-1))).size, 'port')} side by side, the devices of one
				port one after another{desk.factor > 1 ? `, at ${desk.factor} × wire speed` : ''}. One that fails
				stops nothing else.
			</p>
		</div>
		<div class="field">
			<label for="studio-here">I am at</label>
			<select id="studio-here" class="select" bind:value={tray.here}>
				<option value="">anywhere</option>
				{#each data.places.filter(Boolean) as place (place)}<option value={place}>{place}</option>{/each}
			</select>
		</div>
		<button class="btn btn-primary" onclick={check}
			>Check all {plan.jobs.length} in the tray <span class="key">B</span></button
		>
	</div>
	<ol class="mt-3" aria-label="In this order">
		{#each plan.jobs as job (job.id)}
			<li class="flex items-baseline gap-3 border-b border-line py-1">
				<span class="plate min-w-0 flex-1 truncate">{job.name}</span>
				<span class="small-print">{job.place}</span>
				{#if job.hands}<span class="small-print">needs a key pressed on it</span>{/if}
				<span class="figures small-print w-20 text-right">{duration(job.expectedMs / desk.factor)}</span>
			</li>
		{/each}
	</ol>
	{#if plan.left.length > 0}
		<h3 class="mt-5">Not in this backup</h3>
		<ul class="mt-1 text-sm">
			{#each plan.left.filter((entry) => !blank.includes(entry)) as entry (entry.id)}
				<li class="border-b border-line py-1"><strong>{entry.name}</strong>: {entry.why}</li>
			{/each}
		</ul>
		{#if blank.length > 0}<p class="small-print mt-1">
				{count(blank.length, 'device')} without a profile; their noted settings are kept in the snapshot.
			</p>{/if}
	{/if}
{/if}
