<script lang="ts">
	import {
		plannableRows,
		planEdits,
		rowWords,
		setPlan,
		songsMeant,
		songsText,
		type PagePlan
	} from '$lib/core/control';
	import PagePlanResult from '$lib/ui/control/PagePlanResult.svelte';
	import SetPickUps from '$lib/ui/control/SetPickUps.svelte';
	import SetWishes from '$lib/ui/control/SetWishes.svelte';
	import MapHead from '$lib/ui/control/MapHead.svelte';
	import { openMap } from '$lib/ui/control/map-context';
	import { Doing } from '$lib/ui/doing.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { count } from '$lib/ui/words';
	import { PagePlanner } from '$lib/workers/page-planner.svelte';
	import { goto } from '$app/navigation';

	const open = openMap();
	const planner = new PagePlanner();
	$effect(() => () => planner.stop());
	const doing = new Doing();
	const map = $derived(open.map);
	const { word } = $derived(map.surface.pages);
	const rows = $derived(plannableRows(map));
	/** Rows on which the pages already tell something, else the longest one. */
	const usual = $derived.by(() => {
		const told = new Set(map.pages.flatMap(({ assignments }) => assignments.map(({ control }) => control)));
		const used = rows.filter((row) =>
			map.surface.controls.some((each) => each.row === row && told.has(each.id))
		);
		const size = (row: string) => map.surface.controls.filter((each) => each.row === row).length;
		return used.length > 0 ? used : [...rows].sort((a, b) => size(b) - size(a)).slice(0, 1);
	});
	let picked = $state.raw<string[] | null>(null);
	const chosen = $derived(picked ?? usual);
	const set = $derived(setPlan(map, chosen));
	let written = $state<string | null>(null);
	let faults = $state.raw<string[]>([]);
	/** A plan, and the map that it was made for: of any other it is not shown. */
	let made = $state.raw<{ plan: PagePlan; of: typeof map; rows: readonly string[] } | null>(null);
	const plan = $derived(made && made.of === map && made.rows === chosen ? made.plan : null);
	const doubles = $derived(set.units.filter(({ today }) => today.length > 1).map(({ name }) => name));

	async function note(text: string) {
		const meant = songsMeant(map, text);
		faults = 'faults' in meant ? meant.faults : [];
		if ('faults' in meant) return;
		if (text !== songsText(map))
			await open.edit('Songs of the set', (now) => {
				const again = songsMeant(now, text);
				return 'edits' in again ? again.edits : [];
			});
		// What was typed meanwhile stays.
		if (written === text) written = null;
	}
	const run = () =>
		doing.run(async () => {
			if (planner.running) return;
			// What was just written counts: a plan of the map before it would be shown to nobody.
			await open.settled();
			if (set.units.length === 0) return;
			const [of, on] = [map, chosen];
			const found = await planner.run(set.task, 20, set.today);
			made = { plan: found, of, rows: on };
		});
	async function takeOver() {
		if (!made || !plan) return;
		const { plan: placed } = made;
		const kept = await open.edit(`${count(placed.places.length, 'target')} placed as planned`, (now) =>
			planEdits(now, setPlan(now, chosen), placed)
		);
		if (!kept) return;
		notices.say(
			'The pages are as planned. What was learnt stays with its controls; walk back again.',
			'good'
		);
		await goto(`/control/${open.id}`);
	}
	$effect(() => pageKeys.add([{ key: 'p', says: 'Plan the pages', run: () => void run() }]));
</script>

<svelte:head><title>Pages of {map.name} · Silent Drawer</title></svelte:head>

<MapHead {open} />
<p class="mb-3"><a class="link" href={`/control/${open.id}`}>Back to the strips</a></p>

<div class="field max-w-3xl">
	<label for="songs">Songs of the set, a line each: what is touched, in its order</label>
	<textarea
		id="songs"
		class="textarea min-h-32 w-full"
		placeholder="The Slow Eclipse: Cutoff; Level ch 4; CC 20"
		aria-invalid={faults.length > 0 ? 'true' : undefined}
		aria-describedby={faults.length > 0 ? 'song-faults' : undefined}
		value={written ?? songsText(map)}
		oninput={(event) => (written = event.currentTarget.value)}
		onchange={(event) => void note(event.currentTarget.value)}
	></textarea>
</div>
{#if faults.length > 0}
	<ul id="song-faults" role="alert" class="mt-1 list-inside list-disc text-rust">
		{#each faults as says (says)}<li>{says}</li>{/each}
	</ul>
	<p class="small-print">Nothing of this was noted yet.</p>
{/if}

<fieldset class="mt-4">
	<legend>On the controls of</legend>
	<div class="flex flex-wrap gap-4">
		{#each rows as row (row)}<label class="flex items-center gap-2"
				><input
					type="checkbox"
					class="checkbox checkbox-sm"
					checked={chosen.includes(row)}
					onchange={(event) =>
						(picked = event.currentTarget.checked ? [...chosen, row] : chosen.filter((each) => each !== row))}
				/>{rowWords(row)}</label
			>{/each}
	</div>
</fieldset>

<SetWishes {open} {set} />

<div class="mt-4 flex flex-wrap items-center gap-3">
	{#if planner.running}
		<button class="btn btn-sm" onclick={() => planner.stop()}>Stop, with what was found</button>
	{:else}
		<button
			class={['btn btn-sm', !plan && 'btn-primary']}
			disabled={set.units.length === 0}
			onclick={() => void run()}>Plan the {word}s <span class="key">P</span></button
		>
	{/if}
	<p role="status" class="small-print">
		{#if planner.running}{#if planner.goals}Best so far: {planner.goals.unplaced} without a place, {count(
					planner.goals.presses,
					'press',
					'presses'
				)} in the set.{:else}Looking for a first layout …{/if}
		{:else if set.units.length === 0}Write a song, or choose a row on which something stands.
		{:else}{count(set.units.length, 'target')} on {count(set.controls.size, 'control')} and {map.surface.pages
				.count}
			{word}s. At most 20 seconds.{/if}
	</p>
</div>
{#if set.left.length > 0}<p class="mt-2">
		Not planned, because no control of these rows is made for it: {set.left.join(', ')}.
	</p>{/if}
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
{#if open.doing.problem}<div class="mt-2"><ProblemNote problem={open.doing.problem} /></div>{/if}
{#if plan}
	<PagePlanResult {plan} {word} {doubles}>
		<button class="btn btn-primary btn-sm" disabled={open.doing.busy} onclick={() => void takeOver()}
			>Take this over</button
		>
	</PagePlanResult>
{/if}
<SetPickUps {open} />
