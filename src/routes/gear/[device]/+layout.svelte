<script lang="ts">
	import { carriesMessages } from '$lib/core/gear';
	import { roleOf } from '$lib/core/rig';
	import { putInTray } from '$lib/ui/tray/put';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import LinePlate from '$lib/ui/contact/LinePlate.svelte';
	import Tabs from '$lib/ui/Tabs.svelte';

	let { data, children } = $props();
	const base = $derived(`/gear/${data.device.id}`);
	const tabs = $derived([
		{ title: 'Facts', href: base },
		{ title: 'Ports', href: `${base}/ports` },
		...(data.profile
			? [
					{ title: 'Drawer', href: `${base}/drawer` },
					{ title: 'Profile', href: `${base}/profile` }
				]
			: [{ title: 'Drawer', href: `${base}/drawer` }]),
		{ title: 'Settings', href: `${base}/settings` },
		{ title: 'Notes', href: `${base}/notes` }
	]);
	/** A device without a profile is listened to, and kept raw. */
	const readable = $derived(data.line.readable);
	/** A supply or a pedal with nothing but a jack is on no line to the computer. */
	const onLine = $derived(
		data.profile !== null ||
			(roleOf(data.device) !== 'supply' &&
				(data.device.ports.length === 0 || data.device.ports.some(carriesMessages)))
	);
	const backUp = $derived(`device=${data.device.id}`);

	$effect(() => {
		if (!readable) return;
		return pageKeys.add([
			{ key: 'b', says: `Back up ${data.device.name}`, run: () => void putInTray(backUp) }
		]);
	});
</script>

<header class="mb-4">
	<div class="flex flex-wrap items-center gap-3">
		<div class="min-w-0 flex-1">
			<h1 class="break-words">{data.device.name}</h1>
			<p class="small-print">
				{[`${data.device.maker} ${data.device.model}`.trim(), data.device.kind, data.device.place]
					.filter(Boolean)
					.join(' · ')}
				{#if data.device.archivedAt}· archived{/if}
			</p>
		</div>
		{#if readable}<a href={`/transfers/new?${backUp}`} class="btn btn-primary"
				>Back up <span class="key">B</span></a
			>{/if}
	</div>
	{#if onLine}<LinePlate stored={data.line} device={data.device} profile={data.profile} />{/if}
	<div class="mt-3"><Tabs label="Pages of this device" {tabs} /></div>
</header>
<!-- What one device’s page holds is not another one’s. -->
{#key data.device.id}{@render children()}{/key}
