<script lang="ts">
	import { attempt } from '$lib/ui/attempt';
	import { refresh } from '$lib/ui/refresh';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { call } from '$lib/hardware/api';
	import { count } from '$lib/ui/words';
	import { notices } from '$lib/ui/notices.svelte';
	import When from '$lib/ui/When.svelte';

	let { data } = $props();
	const { device, profile } = $derived(data);
	const panelId = $derived(
		device.deviceId === null ? '' : String(device.deviceId + (profile?.addressing.deviceId?.panelAdd ?? 0))
	);
	const facts = $derived(
		[
			['Maker and model', `${device.maker} ${device.model}`.trim()],
			['Kind', device.kind],
			['Place', device.place],
			['Serial number', device.serial],
			['Firmware', device.firmware],
			['Receive channel', device.channel === null ? '' : String(device.channel)],
			['Device ID on its panel', panelId],
			['Must be set at each power-on', device.forgets],
			['Power', device.power]
		].filter(([, value]) => value !== '')
	);
	const battery = $derived.by(() => {
		if (!device.batteryFitted || !device.batteryYears) return null;
		const years = (Date.now() - Date.parse(device.batteryFitted)) / (365.25 * 86_400_000);
		return { years, share: years / device.batteryYears, left: device.batteryYears - years };
	});

	/** It just got its profile: what that read. */
	const again = $derived.by(() => {
		const [read, raw] = ['read', 'raw'].map((key) => Number(page.url.searchParams.get(key) ?? 0));
		return [
			read > 0
				? `${count(read, 'version')} that ${read === 1 ? 'was' : 'were'} kept raw ${read === 1 ? 'is' : 'are'} read by the profile now; ${read === 1 ? 'its' : 'their'} bytes are as they were.`
				: '',
			raw > 0
				? `${count(raw, 'version')} ${raw === 1 ? 'stays' : 'stay'} raw: the profile reads none of ${raw === 1 ? 'it' : 'them'}.`
				: ''
		]
			.filter(Boolean)
			.join(' ');
	});

	const archive = () =>
		attempt(async () => {
			const { id, name } = device;
			await call('DELETE', `/devices/${id}`);
			await goto('/gear', { invalidateAll: true });
			notices.say(`${name} is archived; its drawer is kept.`, 'plain', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [{ method: 'POST', path: `/devices/${id}/unarchive` }],
					says: `${name} is back in the cabinet.`
				}
			});
		});

	const duplicate = () =>
		attempt(async () => {
			const copy = await call<{ id: string; name: string }>('POST', `/devices/${device.id}/duplicate`);
			await goto(`/gear/${copy.id}/edit`, { invalidateAll: true });
			notices.say(`${copy.name} is added. Two units of one model need two device IDs.`, 'good');
		});

	const touched = () =>
		attempt(async () => {
			await call('POST', `/devices/${device.id}/touch`);
			await refresh();
			notices.say(`Noted: the sounds of ${device.name} changed since it was read.`);
		});
</script>

<svelte:head><title>{device.name} · Silent Drawer</title></svelte:head>

{#if again}<p role="status" class="mb-3">{again}</p>{/if}

<div class="grid gap-8 xl:grid-cols-[minmax(0,1fr)_20rem]">
	<section aria-label="Facts">
		<dl class="grid max-w-2xl grid-cols-[13rem_1fr] gap-y-2">
			{#each facts as [label, value] (label)}<dt class="text-slate">{label}</dt>
				<dd>{value}</dd>{/each}
		</dl>
		<div class="mt-6 flex flex-wrap gap-2">
			<a href={`/gear/${device.id}/edit`} class="btn btn-sm">Edit</a>
			<button class="btn btn-sm" onclick={duplicate}>Duplicate</button>
			{#if device.archivedAt === null}<button class="btn btn-sm" onclick={archive}>Archive</button>{/if}
			{#if profile && data.changed === 0}<button class="btn btn-sm" onclick={touched}
					>I changed sounds on it</button
				>{/if}
		</div>
		{#if data.changed > 0 && data.touchedAt}<p class="mt-3">
				Its sounds were changed <When at={data.touchedAt} />; {data.changed === 1
					? 'one slot was'
					: `${data.changed} slots were`} not read since.
			</p>{/if}
		{#if profile}<p class="mt-3">{data.reading}</p>{/if}
	</section>
	<section id="battery" aria-label="Memory battery" class="sheet self-start bg-ground p-4">
		<h2>Memory battery</h2>
		{#if battery}
			<p class="mt-1">
				{device.batteryType || 'Battery'}, fitted {device.batteryFitted}: {battery.years.toFixed(1)} of about {device.batteryYears}
				years.
			</p>
			<progress
				class="progress mt-2 w-full progress-info"
				value={Math.min(100, battery.share * 100)}
				max="100"
				aria-label="Share of the battery's usual life"
			></progress>
			<p class="mt-2 text-sm">
				{battery.left > 0
					? `About ${battery.left.toFixed(1)} years left by the usual life; batteries do not keep to it.`
					: 'Older than such a battery usually lasts.'}
				Back everything up before it is changed. Follow the maker’s label; a soldered battery, or one beside mains
				parts, is a qualified technician’s work.
			</p>
		{:else}
			<p class="mt-1">{device.batteryType || 'Nothing is noted.'}</p>
			<p class="small-print mt-1">With its date and usual life, Today warns before it is flat.</p>
		{/if}
	</section>
</div>
