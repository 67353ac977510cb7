<script lang="ts">
	import {
		ALL_CHANNELS,
		indexRig,
		keepPorts,
		portName,
		type Host,
		type HostPort,
		type Rig
	} from '$lib/core/rig';

	/** The numbered ports that the computer shows: what each is enabled for, and who listens or plays. */
	let {
		rig,
		host,
		save
	}: { rig: Rig; host: Host; save: (values: Partial<Host>, says: string) => Promise<boolean> } = $props();
	const index = $derived(indexRig(rig));
	const list = (direction: 'in' | 'out') =>
		host.ports.filter((port) => port.direction === direction).sort((a, b) => a.number - b.number);
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

{#each groups as group (group.title)}
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
							<th>{group.title === 'Inputs' ? 'Who listens' : 'Who plays to it'}</th><th
								><span class="sr-only">Remove</span></th
							>
						</tr>
					</thead>
					<tbody>
						{#each group.list as port (port.id)}
							<tr>
								<td class="number">
									<input
										type="number"
										min="1"
										max="999"
										class="input w-16 text-right input-xs"
										aria-label={`Number: ${port.name}`}
										value={port.number}
										onchange={(event) => {
											const number = Math.min(
												999,
												Math.max(1, Math.round(Number(event.currentTarget.value) || 1))
											);
											void setPort(port, { number }, `number ${number}`);
										}}
									/>
								</td>
								<td>
									<input
										class="input w-40 input-xs"
										maxlength="80"
										aria-label={`Name in the computer: ${port.name}`}
										value={port.name}
										onchange={(event) => {
											const name = event.currentTarget.value.trim();
											if (name) void setPort(port, { name }, `now called ${name}`);
											else event.currentTarget.value = port.name;
										}}
									/>
								</td>
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
										{#each ALL_CHANNELS as channel (channel)}<option value={channel}>{channel}</option>{/each}
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
								<td>
									<button
										class="btn btn-ghost btn-xs"
										aria-label={`Remove ${port.name}`}
										onclick={() => remove(port)}>Remove</button
									>
								</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
		{/if}
	</section>
{/each}
