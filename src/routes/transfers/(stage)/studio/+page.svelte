<script lang="ts">
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import { planStudio, studioBackup } from '$lib/hardware/studio-backup.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import StudioRun from '$lib/ui/StudioRun.svelte';
	import StudioPreflight from '$lib/ui/StudioPreflight.svelte';
	import { count, duration, problemOf } from '$lib/ui/words';

	let { data } = $props();
	let here = $state('');
	let title = $state('');
	let ticked = $state<Record<string, boolean>>({});
	let out = $state<Record<string, boolean>>({});
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	let starting = $state(false);

	const plan = $derived.by(() => {
		void midiDesk.remembered;
		const candidates = data.candidates[desk.world].filter(({ device }) => !out[device.id]);
		return planStudio(candidates, data.places, desk.world, here);
	});
	const factor = $derived(desk.world === 'bench' ? desk.speed : 1);
	const open = $derived(
		plan.preflight.filter(({ id, checks }) => !checks.every((check) => ticked[`${id} ${check.id}`]))
	);
	const ready = $derived(plan.jobs.length > 0 && open.length === 0);

	async function start() {
		if (!ready || starting || studioBackup.running) return;
		starting = true;
		problem = null;
		try {
			await studioBackup.start(plan, { title: title.trim(), note: '' });
		} catch (error) {
			problem = problemOf(error);
		}
		starting = false;
	}

	/** Takes only what failed, into the same snapshot. */
	async function retry() {
		const failed = new Set(
			studioBackup.jobs
				.filter(({ state }) => state === 'failed' || state === 'cancelled')
				.map(({ job }) => job.id)
		);
		const again = planStudio(
			data.candidates[desk.world].filter(({ device }) => failed.has(device.id)),
			data.places,
			desk.world,
			here
		);
		problem = null;
		try {
			await studioBackup.start(again, { title, note: '', snapshotId: studioBackup.snapshotId! });
		} catch (error) {
			problem = problemOf(error);
		}
	}

	$effect(() =>
		pageKeys.add([{ key: 's', says: 'Start the backup of the whole studio', run: () => void start() }])
	);
</script>

<svelte:head><title>Whole studio · Silent Drawer</title></svelte:head>

{#if problem}<div class="mb-3"><ProblemNote {problem} /></div>{/if}
{#if studioBackup.jobs.length > 0}
	<StudioRun {retry} again={() => (studioBackup.jobs = [])} />
{:else if plan.jobs.length === 0}
	<h2>
		Nothing can be backed up {desk.world === 'bench' ? 'on the bench' : 'over the computer’s ports'} yet
	</h2>
	<p class="mt-1 max-w-prose">
		A device needs a profile that can ask for its memory, and a way back to the computer.
		{desk.world === 'hardware' ? 'Which port is which is chosen under Ports.' : ''}
	</p>
	<p class="mt-3 flex gap-2">
		<a class="btn btn-primary" href="/transfers/ports">Ports</a><a class="btn" href="/gear/new"
			>Add a device</a
		>
	</p>
{:else}
	<div class="grid gap-8 xl:grid-cols-[minmax(0,1fr)_22rem]">
		<div>
			<StudioPreflight {plan} bind:ticked />
		</div>
		<section aria-label="What will happen">
			<h2>{count(plan.jobs.length, 'device')}, about {duration(plan.predictedMs / factor)}</h2>
			<p class="small-print mt-1">
				{count(new Set(plan.jobs.map(({ lanes }) => lanes.at(-1))).size, 'port')} side by side, the devices of one
				port one after another{factor > 1 ? `, at ${factor} × wire speed` : ''}. One that fails stops nothing
				else.
			</p>
			<div class="field mt-3">
				<label for="studio-title">Title</label>
				<input
					id="studio-title"
					class="input w-full"
					maxlength="80"
					bind:value={title}
					placeholder="Première, last rehearsal …"
				/>
			</div>
			<div class="field mt-3">
				<label for="studio-here">I am at</label>
				<select id="studio-here" class="select w-full" bind:value={here}>
					<option value="">anywhere</option>
					{#each data.places.filter(Boolean) as place (place)}<option value={place}>{place}</option>{/each}
				</select>
			</div>
			<button class="btn mt-4 w-full btn-primary" disabled={!ready || starting} onclick={start}
				>Back up the studio <span class="key">S</span></button
			>
			<p class="small-print mt-2" role="status">
				{ready ? 'Everything is ready.' : `${count(open.length, 'device')} still to be looked at.`}
			</p>
			<h3 class="mt-5">In this order</h3>
			<ol class="mt-1 text-sm">
				{#each plan.jobs as job (job.id)}
					<li class="flex items-baseline gap-2 border-b border-line py-1">
						<label class="flex min-w-0 flex-1 items-center gap-2"
							><input
								type="checkbox"
								class="checkbox checkbox-xs"
								checked
								onchange={() => (out = { ...out, [job.id]: true })}
							/><span class="truncate">{job.name}</span></label
						>
						{#if job.hands}<span class="small-print">needs a key pressed</span>{/if}
						<span class="figures small-print">{duration(job.expectedMs / factor)}</span>
					</li>
				{/each}
			</ol>
			{#if Object.keys(out).length > 0}<button class="btn mt-2 btn-xs" onclick={() => (out = {})}
					>Take all again</button
				>{/if}
			{#if plan.left.length > 0}
				<h3 class="mt-5">Not in this backup</h3>
				<ul class="mt-1 text-sm">
					{#each plan.left.filter(({ why }) => !why.startsWith('It has no profile')) as entry (entry.id)}
						<li class="border-b border-line py-1"><strong>{entry.name}</strong>: {entry.why}</li>
					{/each}
				</ul>
				<p class="small-print mt-1">
					{count(plan.left.filter(({ why }) => why.startsWith('It has no profile')).length, 'device')} without a
					profile; their noted settings are kept in the snapshot.
				</p>
			{/if}
		</section>
	</div>
{/if}
