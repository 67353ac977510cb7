<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { onDestroy } from 'svelte';
	import { afterNavigate, goto } from '$app/navigation';
	import { page } from '$app/state';
	import { socketName, whoIsFound, whoIsOnBench, whoIsSilent, type Surroundings } from '$lib/core/contact';
	import { desk } from '$lib/hardware/desk.svelte';
	import { finder } from '$lib/hardware/finder.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import ComputerPorts from '$lib/ui/contact/ComputerPorts.svelte';
	import FoundTable from '$lib/ui/contact/FoundTable.svelte';
	import SignTable from '$lib/ui/contact/SignTable.svelte';
	import { noteAnswers } from '$lib/ui/contact/take-found';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	const doing = new Doing();
	const bench = $derived(desk.world === 'bench');
	const around = $derived<Surroundings>({ ...data, present: midiDesk.present });
	const found = $derived(finder.heard ? (bench ? whoIsOnBench : whoIsFound)(finder.heard, around) : []);
	const silent = $derived(
		finder.heard && !finder.cancelled ? whoIsSilent(found, finder.asked, around, desk.world) : []
	);
	const asking = $derived(finder.phase === 'asking');
	const ins = $derived(midiDesk.present.filter(({ direction }) => direction === 'in').length);

	async function find(world = desk.world) {
		await doing.run(async () => {
			if (world !== desk.world || world === 'hardware') await desk.setWorld(world);
			await finder.start(data.units, data.profiles, (port) => socketName(around, port));
			await noteAnswers(found, around, desk.world);
		});
	}

	// `?now` is the way here from a button that says so: the search begins with that one click, and not again on a reload.
	afterNavigate(() => {
		if (!page.url.searchParams.has('now')) return;
		void goto('/gear/find', { replaceState: true, noScroll: true, keepFocus: true }).then(() => find());
	});
	onDestroy(() => finder.stop());
</script>

<svelte:head><title>What is plugged in · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-center gap-3">
	<h1 class="flex-1">What is plugged in</h1>
	{#if asking}
		<button class="btn" onclick={() => finder.stop()}>Cancel</button>
	{:else}
		<button class={['btn', found.length === 0 && 'btn-primary']} onclick={() => find()}
			>{finder.heard ? 'Look again' : 'Find it'}</button
		>
	{/if}
</div>
<p class="mt-1 max-w-prose">
	{#if bench}
		Asks every unit of the bench who it is. Nothing real is touched.
	{:else}
		Asks on every port at once who is there, and listens on all of them. It needs no catalogue and no cable
		noted before; nothing is written to any instrument.
	{/if}
	<button class="link-quiet" disabled={asking} onclick={() => find(bench ? 'hardware' : 'bench')}
		>{bench ? 'Look on this computer’s MIDI ports instead' : 'Look on the bench instead'}</button
	>
</p>
{#if doing.problem ?? finder.problem}<div class="mt-3">
		<ProblemNote problem={(doing.problem ?? finder.problem)!} />
	</div>{/if}

<div class="mt-3" role="status">
	{#if asking && finder.progress}
		<progress
			class="progress w-full progress-info"
			max="100"
			value={finder.progress.share * 100}
			aria-label="Share of the search that is done"
		></progress>
		<p class="small-print">
			{finder.progress.out ? `Asking on ${finder.progress.out.name} by itself` : 'Asking on every port'} · {finder
				.progress.answers} answered so far
		</p>
	{:else if finder.heard}
		<p>
			{finder.cancelled ? 'Cancelled. ' : ''}{count(found.length, 'device')} answered on {count(
				finder.asked.length,
				bench ? 'unit' : 'port'
			)}{silent.length > 0 ? `; ${silent.length} that should have did not` : ''}.
		</p>
	{/if}
</div>

{#if finder.heard && found.length > 0}<FoundTable {found} {around} />{/if}

{#if silent.length > 0 || finder.leftOut.length > 0 || finder.loops.length > 0}
	<section class="mt-6" aria-label="What was not reached">
		<h2>Not reached</h2>
		<ul class="mt-1 space-y-1">
			{#each silent as { device, at } (device.id)}
				<li class="flex items-center gap-2">
					<StateMark state="attention" size={11} />
					<span
						><a class="link-quiet" href={`/gear/${device.id}`}>{device.name}</a> is noted at {at} and did not answer:
						is it on, and are both its cables in?</span
					>
				</li>
			{/each}
			{#each finder.leftOut as { port, why } (port.direction + port.id)}
				<li class="flex items-center gap-2">
					<StateMark state="attention" size={11} /><span
						>{socketName(around, port)} ({port.direction}) was left out. {why}</span
					>
				</li>
			{/each}
			{#each finder.loops as { out, in: back } (out.id + back.id)}
				<li class="flex items-center gap-2">
					<StateMark state="quiet" size={11} /><span
						>{socketName(around, out)} (out) comes straight back at {socketName(around, back)} (in): a cable from
						out to in, or something that repeats everything.</span
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}

{#if !bench && finder.heard && !asking}
	<section class="mt-6" aria-label="What does not answer">
		<h2>Does one not answer?</h2>
		<p class="max-w-prose">
			{#if finder.phase === 'listening'}
				{count(ins, 'in')}
				{ins === 1 ? 'is' : 'are'} being listened to: press a key on it, or start its dump on its panel.
			{:else}
				Nothing is listened to any more. <button class="link-quiet" onclick={() => find()}>Look again</button
				>.
			{/if}
		</p>
		{#if finder.signs.length > 0}<SignTable signs={finder.signs} {around} />{/if}
	</section>
{/if}
{#if !bench && midiDesk.permission === 'granted'}<ComputerPorts {around} />{/if}
