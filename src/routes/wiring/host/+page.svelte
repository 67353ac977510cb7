<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import {
		hostSchema,
		portsFor,
		sources,
		trace,
		unshownPorts,
		type Host,
		type RigChange,
		type Unshown
	} from '$lib/core/rig';
	import { changeRig } from '$lib/ui/wiring/change-rig';
	import AudioReturns from '$lib/ui/wiring/AudioReturns.svelte';
	import Hosts from '$lib/ui/wiring/Hosts.svelte';
	import HostTimes from '$lib/ui/wiring/HostTimes.svelte';
	import HostPortList from '$lib/ui/wiring/HostPortList.svelte';
	import HostTracks from '$lib/ui/wiring/HostTracks.svelte';
	import SoftInstruments from '$lib/ui/wiring/SoftInstruments.svelte';

	let { data } = $props();
	const host = $derived(
		data.rig.hosts.find(({ id }) => id === page.url.searchParams.get('host')) ??
			data.rig.hosts[0] ??
			hostSchema.parse({})
	);
	const change = (changes: RigChange[], says: string) => changeRig(changes, says, data.revision);
	const save = (values: Partial<Host>, says: string) =>
		change([{ do: 'host', host: { ...host, ...values } }], says);
	const show = (id: string) => goto(`/wiring/host?host=${encodeURIComponent(id)}`, { noScroll: true });
	const several = $derived(data.rig.hosts.length > 1);

	/** What the computer would show and has no host port yet; with several hosts, device by device. */
	const unshown = $derived(unshownPorts(data.rig, host));
	const all = $derived(unshown.flatMap(({ sockets }) => sockets));
	const addPorts = (sockets: Unshown[]) =>
		save({ ports: [...host.ports, ...portsFor(host, sockets)] }, `${sockets.length} host ports added.`);

	const keys = $derived(
		sources(data.rig).flatMap((entry) =>
			'device' in entry.source ? [{ ...entry, source: entry.source }] : []
		)
	);
	let chosenKey = $state('');
	const key = $derived(keys.find(({ source }) => source.device === chosenKey) ?? keys[0]);
	const sounding = $derived(
		key
			? key.channels.map((channel) => ({ channel, reached: trace(data.rig, key.source, channel).reached }))
			: []
	);
</script>

<svelte:head><title>Ins and outs · Silent Drawer</title></svelte:head>

<Hosts rig={data.rig} {host} {save} {change} {show} />
<div class="mb-4 flex flex-wrap items-center gap-4">
	<label class="flex items-center gap-2"
		><input
			type="checkbox"
			class="checkbox checkbox-sm"
			checked={host.clock}
			onchange={(event) =>
				save(
					{ clock: event.currentTarget.checked },
					event.currentTarget.checked
						? `${several ? host.name : 'The host'} leads the tempo.`
						: `${several ? host.name : 'The host'} sends no clock.`
				)}
		/>
		{several ? host.name : 'The host'} leads the tempo (clock)</label
	>
	<label class="flex items-center gap-2"
		>Keys go to <select
			class="select w-56 select-sm"
			value={host.keys}
			onchange={(event) =>
				save(
					{ keys: event.currentTarget.value as typeof host.keys },
					event.currentTarget.value === 'selected'
						? 'Keys go to the selected track.'
						: 'Keys go to all who listen.'
				)}
			><option value="all">all who listen</option><option value="selected">the selected track</option></select
		></label
	>
	{#if several}
		{#each unshown as { device, sockets } (device.id)}
			<button class="btn btn-sm" onclick={() => addPorts(sockets)}
				>Add {sockets.length === 1 ? 'the port' : `the ${sockets.length} ports`} of {device.name}</button
			>
		{/each}
	{:else if all.length > 0}
		<button class="btn btn-sm" onclick={() => addPorts(all)}
			>Add {all.length} ports that the computer shows</button
		>
	{/if}
</div>

{#if key}
	<section class="sheet mb-5 p-4" aria-labelledby="sounds-heading">
		<div class="flex flex-wrap items-center gap-3">
			<h2 id="sounds-heading">Who sounds when I play</h2>
			<select
				class="select w-52 select-sm"
				aria-label="Keys that are played"
				value={key.source.device}
				onchange={(event) => (chosenKey = event.currentTarget.value)}
			>
				{#each keys as entry (entry.source.device)}<option value={entry.source.device}>{entry.name}</option
					>{/each}
			</select>
		</div>
		<ul class="mt-1">
			{#each sounding as { channel, reached } (channel)}
				<li>
					Channel {channel}: {#each reached as entry, i (entry.id)}{i > 0 ? ', ' : ''}<strong
							>{entry.name}</strong
						>
						after {entry.delayMs.toFixed(1)} ms{/each}{#if reached.length === 0}nobody.
						<a class="link-quiet" href={`/wiring/problems?from=device ${key.source.device}`}>What stops it?</a
						>{/if}
				</li>
			{/each}
		</ul>
	</section>
{/if}

<div class="grid grid-cols-1 gap-6">
	<HostPortList rig={data.rig} {host} {save} />
	<SoftInstruments {host} {save} />
	<HostTimes {host} {save} />
	<HostTracks {host} {save} />
	<section aria-labelledby="audio-heading">
		<h2 id="audio-heading" class="mb-1">Audio returns</h2>
		<AudioReturns rig={data.rig} revision={data.revision} />
	</section>
</div>
