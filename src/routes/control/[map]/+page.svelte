<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import {
		candidates,
		fitPage,
		hearStands,
		nothingHeard,
		padRows,
		standingsOf,
		type ControlMap,
		type Line
	} from '$lib/core/control';
	import { BenchHand } from '$lib/hardware/bench-hand';
	import { hearBursts } from '$lib/hardware/controller-ear';
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import LearnBar from '$lib/ui/control/LearnBar.svelte';
	import LineSlip from '$lib/ui/control/LineSlip.svelte';
	import MapMemory from '$lib/ui/control/MapMemory.svelte';
	import { MemoryView } from '$lib/ui/control/memory-view.svelte';
	import MapHead from '$lib/ui/control/MapHead.svelte';
	import MapSchools from '$lib/ui/control/MapSchools.svelte';
	import MapTurning from '$lib/ui/control/MapTurning.svelte';
	import MapTargets from '$lib/ui/control/MapTargets.svelte';
	import MapTroubles from '$lib/ui/control/MapTroubles.svelte';
	import QuickBar from '$lib/ui/control/QuickBar.svelte';
	import PadScaleForm from '$lib/ui/control/PadScaleForm.svelte';
	import PageBar from '$lib/ui/control/PageBar.svelte';
	import { openMap } from '$lib/ui/control/map-context';
	import StripBand from '$lib/ui/control/StripBand.svelte';
	import WindowForm from '$lib/ui/control/WindowForm.svelte';
	import { Teaching } from '$lib/ui/control/teaching.svelte';
	import { attempt } from '$lib/ui/attempt';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import { readDraft, writeDraft } from '$lib/ui/remembered.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	const open = openMap();
	const teaching = new Teaching();
	const map = $derived<ControlMap>(open.map);
	const { word } = $derived(map.surface.pages);
	let wanted = $state(1);
	const page = $derived(
		map.pages.some(({ number }) => number === wanted) ? wanted : (map.pages[0]?.number ?? 1)
	);
	const rows = $derived(
		[...new Set(map.surface.controls.map(({ row }) => row))]
			.map((row) => ({ row, controls: map.surface.controls.filter((control) => control.row === row) }))
			// Above each other as on the surface.
			.sort((a, b) => Math.min(...a.controls.map(({ y }) => y)) - Math.min(...b.controls.map(({ y }) => y)))
	);
	let chosen = $state.raw<Line | null>(null);
	const chosenName = $derived(map.surface.controls.find(({ id }) => id === chosen?.control)?.name ?? '');
	const targets = $derived(candidates(map));

	// A hand on the bench, and ears for both worlds.
	const view = new MemoryView();
	const unit = $derived(view.controller?.benchUnit ?? null);
	const hand = $derived(
		desk.world === 'bench'
			? new BenchHand(
					map.surface,
					unit === null
						? null
						: (control, how) =>
								desk.touchOnBench(
									unit,
									control,
									how,
									view.told?.whole ? page - 1 : (view.told?.slot ?? page - 1)
								)
				)
			: null
	);
	$effect(() => {
		// Whatever happened meanwhile, a transfer or a change of the map, what is told is asked anew.
		void [data, open.map, view.device, view.slot, desk.world];
		// What it answers is no reason to ask again.
		const asked = page;
		untrack(() => void view.look(open.id, asked));
	});
	$effect(() => {
		hand?.turnTo(page);
		return () => hand?.letGo();
	});
	// Where controls stand, as far as they were heard in this world since the page was opened.
	let heard = $state.raw(nothingHeard);
	const standings = $derived(standingsOf(map, page, heard));
	$effect(() => {
		void desk.world;
		heard = nothingHeard;
	});
	// A sweep that a reload broke off goes on.
	const draftKey = $derived(`sweep.${open.id}`);
	onMount(() => {
		wanted = teaching.goOn(open.map, readDraft(draftKey)) ?? wanted;
	});
	$effect(() => writeDraft(draftKey, teaching.draft(page)));
	onMount(() =>
		hearBursts((burst, port) => {
			heard = hearStands(heard, open.map, page, burst);
			const before = teaching.quick;
			const given = teaching.hear(open.map, page, burst, port, desk.world);
			if (!given) return;
			const [gesture] = map.surface.controls.find(({ id }) => id === given.control)?.gestures ?? ['move'];
			// What was not kept is not called written: its turn comes again.
			void open.write({ page, control: given.control, gesture }, given.name, given.words).then((kept) => {
				if (!kept) teaching.quick = before;
			});
		})
	);
	$effect(() => {
		if (desk.world !== 'hardware' || midiDesk.permission !== 'granted') return;
		return midiDesk.hearAll();
	});

	function turnTo(number: number) {
		teaching.rest();
		wanted = number;
		view.slot = null;
		if (chosen) chosen = { ...chosen, page: number };
	}
	const fit = () =>
		open.doing.run(async () => {
			// What cannot be fitted is said, and changes nothing.
			const { changed, proved } = fitPage(map, page);
			if (changed === 0) return notices.say('The names fit as they are.', 'good');
			const kept = await open.edit(`Names of ${word} ${page} fitted`, (now) => fitPage(now, page).edits);
			if (kept)
				notices.say(
					`${count(changed, 'name')} fitted${proved ? '; no others would read better by the cost that the guide defines' : ''}.`,
					'good'
				);
		});
	const learn = () => teaching.learn(map, desk.world);
	const walkBack = () => teaching.walkBack(map, page, desk.world);
	$effect(() =>
		pageKeys.add([
			{ key: 'l', says: 'Learn what the controls say', run: learn },
			{
				key: 'q',
				says: 'Quick map: targets first, then one control after another',
				run: () => teaching.askQuick()
			},
			{ key: 'w', says: 'Walk back: touch every control once more', run: walkBack }
		])
	);
</script>

<svelte:head><title>{map.name} · Silent Drawer</title></svelte:head>

<MapHead {open} />

<PageBar {open} {page} {turnTo} />
<div class="mt-2 flex flex-wrap gap-2">
	{#if map.surface.display?.names === 'each'}<button
			class="btn btn-sm"
			disabled={open.doing.busy}
			onclick={fit}>Fit the names</button
		>{/if}
	<button class={['btn btn-sm', map.learnt.length === 0 && 'btn-primary']} onclick={learn}
		>Learn <span class="key">L</span></button
	>
	<button class="btn btn-sm" onclick={() => teaching.askQuick()}>Quick map <span class="key">Q</span></button>
	<button class="btn btn-sm" onclick={walkBack}>Walk back <span class="key">W</span></button>
	<a class="btn btn-sm" href={`/control/${open.id}/pages`}>Plan the {word}s</a>
	<a class="btn btn-sm" href={`/control/${open.id}/strips`}>Print the strips</a>
	<a class="btn btn-sm" href={`/control/${open.id}/host`}>Host</a>
	<a class="btn btn-sm" href={`/control/${open.id}/table`}>Table</a>
	<a class="btn btn-sm" href={`/api/v1/maps/${open.id}/document`} download>Map file</a>
</div>

<div class="mt-3" aria-live="polite">
	{#if open.said}<p id="not-understood" class="text-rust">{open.said.says}</p>{/if}
</div>
{#if open.doing.problem}<div class="mt-2"><ProblemNote problem={open.doing.problem} /></div>{/if}
{#if desk.world === 'hardware' && midiDesk.permission !== 'granted'}
	<p class="mt-2">
		<button class="btn btn-primary btn-sm" onclick={() => void midiDesk.ask().catch(() => undefined)}
			>Open the ports</button
		>
		to learn from the controller and to see which strip is touched.
		{midiDesk.problem ? `${midiDesk.problem.message} ${midiDesk.problem.remedy}` : ''}
	</p>
{/if}
{#if teaching.at === 'quick'}<QuickBar {open} {teaching} {page} {learn} />
{:else if teaching.at !== 'rest'}<LearnBar {open} {teaching} {page} />{/if}

<datalist id="targets">
	{#each targets as { says, list, target } (`${list} ${target}`)}<option value={says}></option>{/each}
</datalist>
<p class="small-print mt-2">
	{#if desk.world === 'bench'}The bench plays {map.surface.model}: a drawn control is touched by pressing it.{/if}
	{#if teaching.spoke && teaching.at === 'rest'}
		{teaching.spoke.controls.length === 0
			? `Heard on ${teaching.spoke.port}, and nothing on this ${word} is known to say that.`
			: `Heard on ${teaching.spoke.port}.`}
	{/if}
</p>
<div class="mt-2 flex flex-wrap items-end gap-x-8 gap-y-5">
	{#each rows as { row, controls } (row)}
		<StripBand
			{map}
			{page}
			{row}
			{controls}
			{standings}
			kept={open.said}
			spoke={teaching.spoke?.controls ?? []}
			due={teaching.due}
			walk={teaching.walk}
			{chosen}
			touch={hand && ((control, how) => void attempt(() => hand.touch(control, how)))}
			write={(line, name, text) => open.write(line, name, text)}
			choose={(line) => (chosen = line)}
		/>
		{#if chosen && controls.some(({ id }) => id === chosen?.control)}
			{#each standings.filter(({ control, says }) => control === chosen?.control && says) as { says } (says)}<p
					class="w-full"
				>
					{says}
				</p>{/each}
			{#key `${chosen.control} ${chosen.gesture}`}<LineSlip {open} line={chosen} name={chosenName} />{/key}
		{/if}
	{/each}
</div>

<MapTroubles {open} />
<MapSchools {open} />
<MapTurning {open} />
<MapMemory {open} {page} {view} />
{#key page}<WindowForm {open} {page} />{/key}
{#if padRows(map).length > 0}{#key page}<PadScaleForm {open} {page} />{/key}{/if}
{#key page}<MapTargets {open} {page} told={data.told} pageName={`${word} ${page}`} />{/key}
