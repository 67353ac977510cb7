<script lang="ts">
	import { goto } from '$app/navigation';
	import { batteryChanged, serviceBookSchema } from '$lib/core/care';
	import FaultsAndWear from '$lib/ui/care/FaultsAndWear.svelte';
	import ServiceAdd from '$lib/ui/care/ServiceAdd.svelte';
	import ServiceDues from '$lib/ui/care/ServiceDues.svelte';
	import ServiceLog from '$lib/ui/care/ServiceLog.svelte';
	import { ServiceOnPage } from '$lib/ui/care/service-on-page.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';
	import KeptFiles from '$lib/ui/KeptFiles.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import StepButtons from '$lib/ui/StepButtons.svelte';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const open = new ServiceOnPage(data.book);
	$effect(() => open.take(data.book));
	const device = $derived(data.device);
	const chosen = $derived(data.devices.find(({ id }) => id === device?.id) ?? null);
	const battery = $derived(
		chosen ? (batteryChanged(open.document, chosen.id) ?? chosen.battery?.fitted ?? '') : ''
	);
	const takeOver = (file: File) => open.takeOver(file, serviceBookSchema, 'service-book');
</script>

<svelte:head><title>Service book · Silent Drawer</title></svelte:head>

<div class="mb-3 flex flex-wrap items-end gap-3 print:hidden">
	<div class="field">
		<label for="service-device">Whose book</label>
		<select
			id="service-device"
			class="select w-56 select-sm"
			value={device?.id ?? ''}
			onchange={(event) =>
				void goto(event.currentTarget.value ? `?device=${event.currentTarget.value}` : '/care/service', {
					keepFocus: true,
					noScroll: true
				})}
		>
			<option value="">All devices</option>
			{#each data.devices as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
		</select>
	</div>
	{#if chosen}
		<p class="small-print pb-1.5">
			Firmware {chosen.firmware || 'not noted'}{battery ? ` · battery of ${battery}` : ''} ·
			<a class="link" href={`/care/procedures?device=${chosen.id}`}>begin a procedure</a>
		</p>
	{/if}
	<span class="flex-1"></span>
	<StepButtons
		of="the service book"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
	<a class="btn btn-sm" href="/api/v1/service-book/document" download>Save it</a>
	<FilePick title="Take one from a file" accept=".json" picked={takeOver} />
</div>
{#if open.doing.problem}<div class="mb-3"><ProblemNote problem={open.doing.problem} /></div>{/if}

<div class="grid grid-cols-1 gap-x-10 gap-y-6 xl:grid-cols-[minmax(0,1fr)_24rem]">
	<div class="grid content-start gap-6">
		<ServiceDues {open} devices={data.devices} only={device?.id ?? null} />
		<FaultsAndWear {open} devices={data.devices} only={device?.id ?? null} />
		<ServiceLog {open} devices={data.devices} only={device?.id ?? null} />
	</div>
	<div class="grid content-start gap-6">
		{#key device?.id}
			<ServiceAdd {open} devices={data.devices} procedures={data.procedures} only={device?.id ?? null} />
		{/key}
		{#if device}
			<KeptFiles
				title={`Documents of ${device.name}`}
				path={`/devices/${device.id}/files`}
				files={data.files}
			/>
		{:else}<p class="small-print print:hidden">Documents are kept with a device: choose whose book.</p>{/if}
	</div>
</div>
