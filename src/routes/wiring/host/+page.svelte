<script lang="ts">
	import {
		hostSchema,
		indexRig,
		isMidi,
		isUsb,
		isWire,
		portName,
		sources,
		trace,
		type Host
	} from '$lib/core/rig';
	import { changeRig } from '$lib/ui/wiring/change-rig';
	import HostTimes from '$lib/ui/wiring/HostTimes.svelte';
	import HostPortTable from '$lib/ui/wiring/HostPortTable.svelte';
	import HostTracks from '$lib/ui/wiring/HostTracks.svelte';
	import SoftInstruments from '$lib/ui/wiring/SoftInstruments.svelte';

	let { data } = $props();
	const host = $derived(data.rig.host ?? hostSchema.parse({}));
	const index = $derived(indexRig(data.rig));
	const save = (values: Partial<Host>, says: string) =>
		changeRig([{ do: 'host', host: { ...host, ...values } }], says, data.revision);

	const nextNumber = (direction: 'in' | 'out') =>
		Math.max(0, ...host.ports.filter((port) => port.direction === direction).map(({ number }) => number)) + 1;

	/** Sockets that the computer would show and that have no host port yet. */
	const unshown = $derived(
		[...index.ports.values()].flatMap((placed) => {
			const { port, role } = placed;
			if (
				!isMidi(port) ||
				(role === 'interface'
					? !isWire(port)
					: !(isUsb(port) && port.connector === 'usb-device' && role === 'instrument'))
			)
				return [];
			const shown = (index.hostPortsOf.get(port.id) ?? []).map(({ direction }) => direction);
			const able =
				port.direction === 'both'
					? (['in', 'out'] as const)
					: port.direction === 'in'
						? (['in'] as const)
						: (['out'] as const);
			return able
				.filter((direction) => !shown.includes(direction))
				.map((direction) => ({ placed, direction }));
		})
	);
	function addPorts() {
		let [i, o] = [nextNumber('in'), nextNumber('out')];
		const added = unshown.map(({ placed, direction }) => ({
			...hostSchema.shape.ports.unwrap().element.parse({
				id: `${placed.port.id} ${direction}`,
				name: portName(placed),
				number: direction === 'in' ? i++ : o++,
				direction,
				port: placed.port.id
			})
		}));
		return save({ ports: [...host.ports, ...added] }, `${added.length} host ports added.`);
	}

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

<svelte:head><title>Host ports · Silent Drawer</title></svelte:head>

<div class="mb-4 flex flex-wrap items-center gap-4">
	<label class="flex items-center gap-2"
		><input
			type="checkbox"
			class="checkbox checkbox-sm"
			checked={host.clock}
			onchange={(event) =>
				save(
					{ clock: event.currentTarget.checked },
					event.currentTarget.checked ? 'The host leads the tempo.' : 'The host sends no clock.'
				)}
		/>
		The host leads the tempo (clock)</label
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
	{#if unshown.length > 0}
		<button class="btn btn-sm" onclick={addPorts}>Add {unshown.length} ports that the computer shows</button>
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
						<a class="link-quiet" href={`/wiring/trace?from=device ${key.source.device}`}>What stops it?</a
						>{/if}
				</li>
			{/each}
		</ul>
	</section>
{/if}

<div class="grid gap-6">
	<HostPortTable rig={data.rig} {host} {save} />
	<SoftInstruments {host} {save} />
	<HostTimes {host} {save} />
	<HostTracks {host} {save} />
</div>
