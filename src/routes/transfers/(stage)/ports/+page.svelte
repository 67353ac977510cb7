<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import AdapterTests from '$lib/ui/AdapterTests.svelte';
	import PortTable from '$lib/ui/PortTable.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';

	let { data } = $props();
	const doing = new Doing();

	async function go(world: 'bench' | 'hardware') {
		await doing.run(async () => {
			await desk.setWorld(world);
		});
	}
	/** After a reload the page has to ask again; browsers remember the answer. */
	const asleep = $derived(desk.world === 'hardware' && midiDesk.permission !== 'granted');
</script>

<svelte:head><title>Ports · Silent Drawer</title></svelte:head>

<section aria-label="World">
	<h2>Where transfers take place</h2>
	<fieldset class="mt-2 flex flex-wrap gap-6">
		<legend class="sr-only">World</legend>
		<label class="flex items-start gap-2"
			><input
				type="radio"
				class="radio mt-1 radio-sm"
				name="world"
				checked={desk.world === 'bench'}
				onchange={() => go('bench')}
			/>
			<span
				><strong>Bench</strong><span class="small-print block"
					>Simulated devices; nothing real is touched.</span
				></span
			></label
		>
		<label class="flex items-start gap-2"
			><input
				type="radio"
				class="radio mt-1 radio-sm"
				name="world"
				checked={desk.world === 'hardware'}
				onchange={() => go('hardware')}
			/>
			<span
				><strong>Hardware</strong><span class="small-print block"
					>The computer’s MIDI ports. The browser asks you first.</span
				></span
			></label
		>
	</fieldset>
	{#if asleep}<button class="btn mt-3 btn-primary" onclick={() => go('hardware')}
			>Use the computer’s MIDI ports</button
		>{/if}
	{#if doing.problem ?? midiDesk.problem}<div class="mt-3">
			<ProblemNote problem={(doing.problem ?? midiDesk.problem)!} />
		</div>{/if}
</section>

{#if desk.world === 'hardware' && midiDesk.permission === 'granted'}
	<PortTable sockets={data.sockets} />
{/if}
{#if desk.world === 'bench' || midiDesk.permission === 'granted'}
	<p class="mt-6 flex flex-wrap items-center gap-3">
		<a class="btn btn-primary btn-sm" href="/gear/find?now">Find what is plugged in</a>
		<span class="small-print">Asks on every port at once who is there: the roll call.</span>
	</p>
	<AdapterTests sockets={data.sockets} units={data.units} profiles={data.profiles} />
{/if}
