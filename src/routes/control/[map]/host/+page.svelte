<script lang="ts">
	import { hostRows } from '$lib/core/control';
	import HostButtons from '$lib/ui/control/HostButtons.svelte';
	import KeptFiles from '$lib/ui/KeptFiles.svelte';
	import HostPorts from '$lib/ui/control/HostPorts.svelte';
	import HostRecipe from '$lib/ui/control/HostRecipe.svelte';
	import MapHead from '$lib/ui/control/MapHead.svelte';
	import { openMap } from '$lib/ui/control/map-context';
	import KeptField from '$lib/ui/KeptField.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';

	let { data } = $props();
	const open = openMap();
	const host = $derived(open.map.host);
	const buttons = $derived(hostRows(open.map).length > 0);
	const set = (says: string, key: 'name' | 'version', value: string) =>
		open.edit(says, () => [{ path: ['host', key], value }]);
</script>

<svelte:head><title>Host of {open.map.name} · Silent Drawer</title></svelte:head>

<MapHead {open} />
<p class="mb-3"><a class="link" href={`/control/${open.id}`}>Back to the strips</a></p>
<div class="flex flex-wrap items-end gap-3">
	<div class="field">
		<label for="host-name">Host</label>
		<KeptField
			id="host-name"
			class="input w-56 input-sm"
			maxlength={60}
			placeholder="The computer’s program"
			value={host.name}
			save={(text) => set('Host named', 'name', text.trim())}
		/>
	</div>
	<div class="field">
		<label for="host-version">Its version</label>
		<KeptField
			id="host-version"
			class="input w-32 input-sm"
			maxlength={40}
			value={host.version}
			save={(text) => set('Host’s version', 'version', text.trim())}
		/>
	</div>
	<p class="small-print">What was tried counts for the version that it was tried with.</p>
</div>
{#if open.doing.problem}<div class="mt-2"><ProblemNote problem={open.doing.problem} /></div>{/if}
<HostPorts {open} controllers={data.controllers} />
<HostRecipe {open} />
{#if buttons}<HostButtons {open} />{/if}
<KeptFiles
	title="Files that the host or an editor keeps for this map"
	path={`/maps/${open.id}/files`}
	files={data.files}
/>
