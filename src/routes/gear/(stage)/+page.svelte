<script lang="ts">
	import { refresh } from '$lib/ui/refresh';
	import { call } from '$lib/hardware/api';
	import GearTable from '$lib/ui/GearTable.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import { problemOf } from '$lib/ui/words';

	let { data } = $props();

	async function bringBack(id: string, name: string) {
		try {
			await call('POST', `/devices/${id}/unarchive`);
			notices.say(`${name} is back in the cabinet.`, 'good');
			await refresh();
		} catch (error) {
			notices.say(problemOf(error).message, 'bad');
		}
	}
</script>

<svelte:head><title>Gear · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-center gap-2">
	<h1 class="flex-1">{data.archived ? 'Archived gear' : 'Gear'}</h1>
	{#if data.archived}
		<a href="/gear" class="btn btn-sm">Back to the catalogue</a>
	{:else}
		<a href="/gear/find?now" class="btn btn-primary btn-sm">Find what is plugged in</a>
		<a href="/gear/new" class="btn btn-sm">Add a device</a>
		<a href="/gear/import" class="btn btn-sm">Import CSV</a>
		<a href="/api/v1/catalogue/export" class="btn btn-sm" download>Export CSV</a>
		{#if data.archivedCount > 0}<a href="/gear?archived" class="btn btn-sm">Archived ({data.archivedCount})</a
			>{/if}
	{/if}
</div>

{#if data.rows.length === 0}
	<p class="mt-4">{data.archived ? 'Nothing is archived.' : 'No device yet.'}</p>
{:else}
	<GearTable rows={data.rows} onBringBack={data.archived ? bringBack : undefined} />
{/if}
