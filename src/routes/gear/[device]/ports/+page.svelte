<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { refresh } from '$lib/ui/refresh';
	import { PORT_CONNECTORS } from '$lib/core/gear';
	import { call } from '$lib/hardware/api';
	import BenchPanel from '$lib/ui/BenchPanel.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';

	let { data } = $props();
	const doing = new Doing();
	const alike = $derived(data.units.filter(({ profileId }) => profileId === data.model));
	const strange = $derived(data.units.filter(({ profileId }) => profileId !== data.model));
	const returns = $derived(data.device.ports.some(({ direction }) => direction !== 'in'));

	async function plug(unit: string | null) {
		await doing.run(async () => {
			await call('PUT', `/devices/${data.device.id}/plug`, { unit });
		});
		await refresh();
	}

	async function putNew() {
		await doing.run(async () => {
			const { id } = await call<{ id: string }>('POST', '/bench/units', {
				profileId: data.model,
				name: data.device.name.slice(0, 40)
			});
			await plug(id);
		});
	}
</script>

<svelte:head><title>Ports of {data.device.name} · Silent Drawer</title></svelte:head>

<div class="grid gap-8 xl:grid-cols-2">
	<section aria-label="Jacks and ports">
		<h2 class="mb-2">Jacks and ports</h2>
		{#if data.device.ports.length === 0}
			<p>None is noted. <a class="link-quiet" href={`/gear/${data.device.id}/edit`}>Add them</a>.</p>
		{:else}
			<table class="ledger-table">
				<thead><tr><th>Name</th><th>Direction</th><th>Connector</th></tr></thead>
				<tbody
					>{#each data.device.ports as port (port.name + port.direction)}<tr
							><td>{port.name}</td><td>{port.direction}</td><td>{PORT_CONNECTORS[port.connector]}</td></tr
						>{/each}</tbody
				>
			</table>
			{#if (data.profile?.capture.length ?? 0) > 0 && !returns}
				<p class="mt-2 text-rust">It has no out: without a return it can never be backed up.</p>
			{/if}
		{/if}
		<p class="mt-2">
			<a class="btn btn-sm" href={`/wiring?device=${data.device.id}`}>Channels and switches</a>
			<a class="btn btn-sm" href={`/wiring/map?device=${data.device.id}`}>Cables</a>
		</p>
		<h2 class="mt-6 mb-2">Plugged in to</h2>
		{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
		<div class="field max-w-md">
			<label for="unit">Unit on the bench</label>
			<select
				id="unit"
				class="select w-full"
				value={data.device.benchUnit ?? ''}
				onchange={(event) => plug(event.currentTarget.value || null)}
			>
				<option value="">Nothing</option>
				{#each [{ title: 'Same model', units: alike }, { title: 'Other models', units: strange }] as group (group.title)}
					{#if group.units.length > 0}
						<optgroup label={group.title}>
							{#each group.units as unit (unit.id)}<option value={unit.id} disabled={unit.taken !== null}
									>{unit.name}{unit.taken ? ` (taken by ${unit.taken})` : ''}</option
								>{/each}
						</optgroup>
					{/if}
				{/each}
			</select>
		</div>
		{#if data.profile && data.model && !alike.some(({ taken }) => taken === null)}
			<button class="btn mt-3 btn-sm" onclick={putNew}>Put a new {data.profile.model} on the bench</button>
		{/if}
	</section>
	{#if data.device.benchUnit}
		<section aria-label="Front panel"><BenchPanel unitId={data.device.benchUnit} /></section>
	{/if}
</div>
