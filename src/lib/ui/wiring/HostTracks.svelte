<script lang="ts">
	import { ALL_CHANNELS, type Host, type HostTrack } from '$lib/core/rig';

	/** Tracks of the host: from which input, to which output and channel, and whether they echo. */
	let { host, save }: { host: Host; save: (values: Partial<Host>, says: string) => Promise<boolean> } =
		$props();
	const ports = (direction: 'in' | 'out') =>
		host.ports.filter((port) => port.direction === direction).sort((a, b) => a.number - b.number);
	const ins = $derived(ports('in'));
	const outs = $derived(ports('out'));
	let newTrack = $state('');
	const setTrack = (track: HostTrack, values: Partial<HostTrack>, says: string) =>
		save(
			{ tracks: host.tracks.map((entry) => (entry.id === track.id ? { ...entry, ...values } : entry)) },
			`${track.name}: ${says}.`
		);
	const fresh = () => `track-${Date.now().toString(36)}`;
</script>

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
								id: fresh(),
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
