<script lang="ts">
	import {
		ALL_CHANNELS,
		hostSchema,
		indexRig,
		isMidi,
		isUsb,
		isWire,
		portName,
		sources,
		trace,
		type Host,
		type HostInstrument,
		type HostPort,
		type HostTrack
	} from '$lib/core/rig';
	import { changeRig } from '$lib/ui/wiring/change-rig';

	let { data } = $props();
	const host = $derived(data.rig.host ?? hostSchema.parse({}));
	const index = $derived(indexRig(data.rig));
	const save = (values: Partial<Host>, says: string) =>
		changeRig([{ do: 'host', host: { ...host, ...values } }], says, data.revision);
	const setPort = (port: HostPort, values: Partial<HostPort>, says: string) =>
		save(
			{ ports: host.ports.map((entry) => (entry.id === port.id ? { ...entry, ...values } : entry)) },
			`${port.name}: ${says}.`
		);
	const setTrack = (track: HostTrack, values: Partial<HostTrack>, says: string) =>
		save(
			{ tracks: host.tracks.map((entry) => (entry.id === track.id ? { ...entry, ...values } : entry)) },
			`${track.name}: ${says}.`
		);
	const setInstrument = (instrument: HostInstrument, values: Partial<HostInstrument>, says: string) =>
		save(
			{
				instruments: host.instruments.map((entry) =>
					entry.id === instrument.id ? { ...entry, ...values } : entry
				)
			},
			`${instrument.name}: ${says}.`
		);

	const ins = $derived(
		host.ports.filter(({ direction }) => direction === 'in').sort((a, b) => a.number - b.number)
	);
	const outs = $derived(
		host.ports.filter(({ direction }) => direction === 'out').sort((a, b) => a.number - b.number)
	);
	const nextNumber = (direction: 'in' | 'out') =>
		Math.max(0, ...host.ports.filter((port) => port.direction === direction).map(({ number }) => number)) + 1;
	const fresh = (word: string) => `${word}-${Date.now().toString(36)}`;

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

	/** Software instruments and tracks that listen to an input. */
	const listeningTo = (port: HostPort) => [
		...host.instruments
			.filter(({ on, input }) => on && (input === null || input === port.number))
			.map(({ name }) => name),
		...host.tracks
			.filter(({ input, echo }) => echo && (input === null || input === port.id))
			.map(({ name }) => `track ${name}`)
	];

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
	let newInstrument = $state('');
	let newTrack = $state('');
</script>

<svelte:head><title>Host ports · Silent Drawer</title></svelte:head>

{#snippet tick(port: HostPort, field: 'playing' | 'control' | 'clockOut' | 'sync' | 'hidden', word: string)}
	<td>
		<input
			type="checkbox"
			class="checkbox checkbox-sm"
			aria-label={`${word}: ${port.name}`}
			checked={port[field]}
			onchange={(event) =>
				setPort(
					port,
					{ [field]: event.currentTarget.checked },
					`${word} ${event.currentTarget.checked ? 'on' : 'off'}`
				)}
		/>
	</td>
{/snippet}

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
	{#each [{ title: 'Inputs', list: ins }, { title: 'Outputs', list: outs }] as group (group.title)}
		<section aria-labelledby={`ports-${group.title}`}>
			<h2 id={`ports-${group.title}`}>{group.title}</h2>
			{#if group.list.length === 0}<p class="small-print">None yet.</p>{:else}
				<div class="overflow-x-auto">
					<table class="ledger-table">
						<thead>
							<tr>
								<th class="number">No.</th><th>Name in the computer</th><th>Socket</th><th>Playing</th><th
									>Control</th
								>
								{#if group.title === 'Outputs'}<th>Clock out</th>{:else}<th>Sync</th>{/if}
								<th>Hidden</th><th>Reserved</th>
								<th>{group.title === 'Inputs' ? 'Who listens' : 'Who plays to it'}</th>
							</tr>
						</thead>
						<tbody>
							{#each group.list as port (port.id)}
								<tr>
									<td class="number">{port.number}</td>
									<td class="plate">{port.name}</td>
									<td>{portName(index.ports.get(port.port)!)}</td>
									{@render tick(port, 'playing', 'Playing')}
									{@render tick(port, 'control', 'Control')}
									{#if port.direction === 'out'}{@render tick(
											port,
											'clockOut',
											'Clock out'
										)}{:else}{@render tick(port, 'sync', 'Sync')}{/if}
									{@render tick(port, 'hidden', 'Hidden')}
									<td>
										<select
											class="select w-20 select-xs"
											aria-label={`Reserved channel: ${port.name}`}
											value={port.reserved ?? ''}
											onchange={(event) => {
												const reserved =
													event.currentTarget.value === '' ? null : Number(event.currentTarget.value);
												void setPort(
													port,
													{ reserved },
													reserved === null ? 'no channel reserved' : `channel ${reserved} reserved`
												);
											}}
										>
											<option value="">none</option>
											{#each ALL_CHANNELS as channel (channel)}<option value={channel}>{channel}</option
												>{/each}
										</select>
									</td>
									<td
										>{port.direction === 'in'
											? listeningTo(port).join(', ')
											: host.tracks
													.filter(({ output }) => output === port.id)
													.map(({ name }) => name)
													.join(', ')}</td
									>
								</tr>
							{/each}
						</tbody>
					</table>
				</div>
			{/if}
		</section>
	{/each}

	<section aria-labelledby="instruments-heading">
		<h2 id="instruments-heading">Software instruments</h2>
		<table class="ledger-table">
			<thead
				><tr
					><th>Name</th><th>Listens to input</th><th>Channel</th><th>On</th><th
						><span class="sr-only">Remove</span></th
					></tr
				></thead
			>
			<tbody>
				{#each host.instruments as instrument (instrument.id)}
					<tr>
						<td class="plate">{instrument.name}</td>
						<td>
							<select
								class="select w-56 select-xs"
								aria-label={`Input of ${instrument.name}`}
								value={instrument.input ?? ''}
								onchange={(event) =>
									setInstrument(
										instrument,
										{ input: event.currentTarget.value === '' ? null : Number(event.currentTarget.value) },
										'listens to another input'
									)}
							>
								<option value="">all</option>
								{#each ins as port (port.id)}<option value={port.number}>{port.number} · {port.name}</option
									>{/each}
							</select>
						</td>
						<td>
							<select
								class="select w-20 select-xs"
								aria-label={`Channel of ${instrument.name}`}
								value={instrument.channel ?? ''}
								onchange={(event) =>
									setInstrument(
										instrument,
										{ channel: event.currentTarget.value === '' ? null : Number(event.currentTarget.value) },
										'listens on another channel'
									)}
							>
								<option value="">all</option>
								{#each ALL_CHANNELS as channel (channel)}<option value={channel}>{channel}</option>{/each}
							</select>
						</td>
						<td
							><input
								type="checkbox"
								class="checkbox checkbox-sm"
								aria-label={`${instrument.name} is on`}
								checked={instrument.on}
								onchange={(event) =>
									setInstrument(
										instrument,
										{ on: event.currentTarget.checked },
										event.currentTarget.checked ? 'on' : 'off'
									)}
							/></td
						>
						<td
							><button
								class="btn btn-ghost btn-xs"
								onclick={() =>
									save(
										{ instruments: host.instruments.filter(({ id }) => id !== instrument.id) },
										`${instrument.name} removed.`
									)}>Remove {instrument.name}</button
							></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
		<form
			class="mt-2 flex gap-2"
			onsubmit={(event) => {
				event.preventDefault();
				const name = newInstrument.trim();
				if (name)
					void save(
						{
							instruments: [
								...host.instruments,
								{ id: fresh('soft'), name, input: ins[0]?.number ?? null, channel: null, on: false }
							]
						},
						`${name} added, switched off.`
					);
				newInstrument = '';
			}}
		>
			<input
				class="input w-56 input-sm"
				aria-label="Name of a new software instrument"
				placeholder="Another software instrument"
				maxlength="80"
				bind:value={newInstrument}
			/>
			<button class="btn btn-sm">Add instrument</button>
		</form>
	</section>

	<section aria-labelledby="tracks-heading">
		<h2 id="tracks-heading">Tracks</h2>
		<div class="overflow-x-auto">
			<table class="ledger-table">
				<thead
					><tr
						><th>Name</th><th>Takes from</th><th>Plays to</th><th>On channel</th><th>Echo</th><th
							><span class="sr-only">Remove</span></th
						></tr
					></thead
				>
				<tbody>
					{#each host.tracks as track (track.id)}
						<tr>
							<td class="plate">{track.name}</td>
							<td>
								<select
									class="select w-44 select-xs"
									aria-label={`Input of track ${track.name}`}
									value={track.input ?? ''}
									onchange={(event) =>
										setTrack(track, { input: event.currentTarget.value || null }, 'takes from another input')}
								>
									<option value="">all inputs</option>
									{#each ins as port (port.id)}<option value={port.id}>{port.name}</option>{/each}
								</select>
							</td>
							<td>
								<select
									class="select w-44 select-xs"
									aria-label={`Output of track ${track.name}`}
									value={track.output ?? ''}
									onchange={(event) =>
										setTrack(track, { output: event.currentTarget.value || null }, 'plays to another output')}
								>
									<option value="">nothing</option>
									{#each outs as port (port.id)}<option value={port.id}>{port.name}</option>{/each}
								</select>
							</td>
							<td>
								<select
									class="select w-28 select-xs"
									aria-label={`Channel of track ${track.name}`}
									value={track.outputChannel ?? ''}
									onchange={(event) =>
										setTrack(
											track,
											{
												outputChannel:
													event.currentTarget.value === '' ? null : Number(event.currentTarget.value)
											},
											'plays on another channel'
										)}
								>
									<option value="">as it comes</option>
									{#each ALL_CHANNELS as channel (channel)}<option value={channel}>{channel}</option>{/each}
								</select>
							</td>
							<td
								><input
									type="checkbox"
									class="checkbox checkbox-sm"
									aria-label={`Track ${track.name} echoes`}
									checked={track.echo}
									onchange={(event) =>
										setTrack(
											track,
											{ echo: event.currentTarget.checked },
											event.currentTarget.checked ? 'echo on' : 'echo off'
										)}
								/></td
							>
							<td
								><button
									class="btn btn-ghost btn-xs"
									onclick={() =>
										save(
											{ tracks: host.tracks.filter(({ id }) => id !== track.id) },
											`Track ${track.name} removed.`
										)}>Remove {track.name}</button
								></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<form
			class="mt-2 flex gap-2"
			onsubmit={(event) => {
				event.preventDefault();
				const name = newTrack.trim();
				if (name)
					void save(
						{
							tracks: [
								...host.tracks,
								{
									id: fresh('track'),
									name,
									input: null,
									inputChannel: null,
									output: outs[0]?.id ?? null,
									outputChannel: null,
									echo: false
								}
							]
						},
						`Track ${name} added, its echo off.`
					);
				newTrack = '';
			}}
		>
			<input
				class="input w-56 input-sm"
				aria-label="Name of a new track"
				placeholder="Another track"
				maxlength="80"
				bind:value={newTrack}
			/>
			<button class="btn btn-sm">Add track</button>
		</form>
	</section>
</div>
