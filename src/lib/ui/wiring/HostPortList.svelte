<script lang="ts">
	import {
		ALL_CHANNELS,
		indexRig,
		hostPortUse,
		keepPorts,
		portName,
		type Host,
		type HostPort,
		type Rig
	} from '$lib/core/rig';

	/** The numbered ports that the computer shows: what each is used for in a sentence, changed where it stands. */
	let {
		rig,
		host,
		save
	}: { rig: Rig; host: Host; save: (values: Partial<Host>, says: string) => Promise<boolean> } = $props();
	const index = $derived(indexRig(rig));
	const list = (direction: 'in' | 'out') =>
		host.ports.filter((port) => port.direction === direction).sort((a, b) => a.number - b.number);
	const who = (port: HostPort) =>
		port.direction === 'in'
			? listeningTo(port)
			: host.tracks.filter(({ output }) => output === port.id).map(({ name }) => `track ${name}`);
	const groups = $derived([
		{ title: 'Inputs', list: list('in') },
		{ title: 'Outputs', list: list('out') }
	]);
	/** A port that the computer no longer shows; tracks that used it stay, without it. */
	const remove = (port: HostPort) =>
		save(
			keepPorts(host, ({ id }) => id !== port.id),
			`${port.name} removed.`
		);
	const setPort = (port: HostPort, values: Partial<HostPort>, says: string) =>
		save(
			{ ports: host.ports.map((entry) => (entry.id === port.id ? { ...entry, ...values } : entry)) },
			`${port.name}: ${says}.`
		);

	/** Software instruments and tracks that listen to an input. */
	const listeningTo = (port: HostPort) => [
		...host.instruments
			.filter(({ on, input }) => on && (input === null || input === port.number))
			.map(({ name }) => name),
		...host.tracks
			.filter(({ input, echo }) => echo && (input === null || input === port.id))
			.map(({ name }) => `track ${name}`)
	];
</script>

{#snippet use(port: HostPort, field: 'playing' | 'control' | 'clockOut' | 'sync' | 'hidden', word: string)}
	<label class="flex items-center gap-2"
		><input
			type="checkbox"
			class="checkbox checkbox-sm"
			checked={port[field]}
			onchange={(event) =>
				setPort(
					port,
					{ [field]: event.currentTarget.checked },
					`${word} ${event.currentTarget.checked ? 'on' : 'off'}`
				)}
		/>
		{word}</label
	>
{/snippet}

{#each groups as group (group.title)}
	<section aria-labelledby={`ports-${group.title}`}>
		<h2 id={`ports-${group.title}`}>{group.title}</h2>
		{#if group.list.length === 0}<p class="small-print">None yet.</p>{:else}
			<ul class="border-t border-line">
				{#each group.list as port (port.id)}
					{@const heard = who(port)}
					<li class="border-b border-line py-1">
						<details>
							<summary class="cursor-pointer">
								<span class="figures small-print inline-block w-6 text-right">{port.number}</span>
								<span class="plate">{port.name}</span>
								<span class="small-print"
									>{portName(index.ports.get(port.port)!) === port.name
										? ''
										: `at ${portName(index.ports.get(port.port)!)}. `}{hostPortUse(port)}
									{heard.length > 0
										? `${port.direction === 'in' ? 'Heard by' : 'Played by'} ${heard.join(', ')}.`
										: ''}</span
								>
							</summary>
							<div class="mt-2 mb-1 ml-8 flex flex-wrap items-end gap-x-5 gap-y-2">
								<div class="field">
									<label for={`number-${port.id}`}>Number</label>
									<input
										id={`number-${port.id}`}
										type="number"
										min="1"
										max="999"
										class="input w-20 text-right input-sm"
										value={port.number}
										onchange={(event) => {
											const number = Math.min(
												999,
												Math.max(1, Math.round(Number(event.currentTarget.value) || 1))
											);
											void setPort(port, { number }, `number ${number}`);
										}}
									/>
								</div>
								<div class="field">
									<label for={`name-${port.id}`}>Name in the computer</label>
									<input
										id={`name-${port.id}`}
										class="input w-52 input-sm"
										maxlength="80"
										value={port.name}
										onchange={(event) => {
											const name = event.currentTarget.value.trim();
											if (name) void setPort(port, { name }, `now called ${name}`);
											else event.currentTarget.value = port.name;
										}}
									/>
								</div>
								<div class="field">
									<label for={`reserved-${port.id}`}>The host’s own channel</label>
									<select
										id={`reserved-${port.id}`}
										class="select w-24 select-sm"
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
										{#each ALL_CHANNELS as channel (channel)}<option value={channel}>{channel}</option>{/each}
									</select>
								</div>
								{@render use(port, 'playing', 'For playing')}
								{@render use(port, 'control', 'For a control surface')}
								{#if port.direction === 'out'}{@render use(
										port,
										'clockOut',
										'Clock goes out'
									)}{:else}{@render use(port, 'sync', 'Tempo is taken from it')}{/if}
								{@render use(port, 'hidden', 'Not shown by the system')}
								<button class="btn btn-sm" aria-label={`Remove ${port.name}`} onclick={() => remove(port)}
									>Remove</button
								>
							</div>
						</details>
					</li>
				{/each}
			</ul>
		{/if}
	</section>
{/each}
