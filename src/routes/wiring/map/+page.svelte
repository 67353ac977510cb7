<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import Cabling from '$lib/ui/wiring/Cabling.svelte';
	import RigMapView from '$lib/ui/wiring/RigMapView.svelte';

	let { data } = $props();
	const selected = $derived(page.url.searchParams.get('device'));
	const device = $derived(data.rig.devices.find(({ id }) => id === selected));
	const show = (id: string | null) =>
		goto(id ? `/wiring/map?device=${id}` : '/wiring/map', {
			keepFocus: true,
			noScroll: true,
			replaceState: true
		});
</script>

<svelte:head><title>Map · Silent Drawer</title></svelte:head>

{#if data.map.devices.length === 0}<p class="mb-4">
		No cable is noted yet. Choose a device below and plug in its first.
	</p>{:else}
	<RigMapView rig={data.rig} map={data.map} {selected} onSelect={show} />
{/if}
<div class="mt-4 print:hidden">
	<label class="mb-3 flex items-center gap-2"
		>Device
		<select
			class="select w-56 select-sm"
			value={selected ?? ''}
			onchange={(event) => show(event.currentTarget.value || null)}
		>
			<option value="">None chosen</option>
			{#each data.rig.devices as entry (entry.id)}<option value={entry.id}>{entry.name}</option>{/each}
		</select></label
	>
	{#if device}{#key device.id}<Cabling rig={data.rig} {device} revision={data.revision} />{/key}{/if}
</div>
