<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { changeRig } from '$lib/ui/wiring/change-rig';
	import Ledger from '$lib/ui/wiring/Ledger.svelte';
	import WiringFacts from '$lib/ui/wiring/WiringFacts.svelte';

	let { data } = $props();
	const selected = $derived(page.url.searchParams.get('device'));
	const device = $derived(data.rig.devices.find(({ id }) => id === selected) ?? null);

	const select = (id: string) =>
		goto(id === selected ? '/wiring' : `/wiring?device=${id}`, {
			keepFocus: true,
			noScroll: true,
			replaceState: true
		});
</script>

<svelte:head><title>Channels · Silent Drawer</title></svelte:head>

{#if data.rig.devices.every(({ kind }) => !/interface/i.test(kind))}
	<p>
		The ledger has a row for each out of an interface, and there is no interface yet.
		<a class="btn ml-2 btn-sm" href="/gear/new">Add an interface</a>
	</p>
{:else}
	<Ledger
		rig={data.rig}
		{selected}
		onSelect={select}
		onMove={(changes, says) => changeRig(changes, says, data.revision)}
	/>
	{#if device}
		<section class="sheet mt-4 p-4" aria-labelledby="facts-heading">
			<div class="mb-3 flex flex-wrap items-center gap-3">
				<h2 id="facts-heading" class="flex-1">{device.name}</h2>
				<a class="btn btn-sm" href={`/wiring/trace?to=${device.id}`}>Why don’t I hear it?</a>
				<a class="btn btn-sm" href={`/wiring/map?device=${device.id}`}>Show on the map</a>
			</div>
			{#key device.id}<WiringFacts rig={data.rig} {device} />{/key}
		</section>
	{:else}
		<p class="mt-3 flex flex-wrap items-center gap-2">
			<label class="small-print" for="other-device"
				>Choose a block to see what its device does with messages, and to lock it. Or any device:</label
			>
			<select
				id="other-device"
				class="select w-52 select-sm"
				value=""
				onchange={(event) => select(event.currentTarget.value)}
			>
				<option value="">None chosen</option>
				{#each data.rig.devices as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</p>
	{/if}
{/if}
