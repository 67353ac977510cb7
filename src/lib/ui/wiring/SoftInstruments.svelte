<script lang="ts">
	import { ALL_CHANNELS, type Host, type HostInstrument } from '$lib/core/rig';

	/** Software instruments: which numbered input each listens to. */
	let { host, save }: { host: Host; save: (values: Partial<Host>, says: string) => Promise<boolean> } =
		$props();
	const ins = $derived(
		host.ports.filter(({ direction }) => direction === 'in').sort((a, b) => a.number - b.number)
	);
	let newInstrument = $state('');
	const setInstrument = (instrument: HostInstrument, values: Partial<HostInstrument>, says: string) =>
		save(
			{
				instruments: host.instruments.map((entry) =>
					entry.id === instrument.id ? { ...entry, ...values } : entry
				)
			},
			`${instrument.name}: ${says}.`
		);
	const fresh = () => `soft-${Date.now().toString(36)}`;
</script>

<section aria-labelledby="instruments-heading">
	<h2 id="instruments-heading">Software instruments</h2>
	<div class="overflow-x-auto">
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
	</div>
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
							{ id: fresh(), name, input: ins[0]?.number ?? null, channel: null, on: false }
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
