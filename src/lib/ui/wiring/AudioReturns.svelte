<script lang="ts">
	import {
		audioOf,
		freePairs,
		indexRig,
		portName,
		type AudioReturn,
		type Rig,
		type RigChange
	} from '$lib/core/rig';
	import { count } from '../words';
	import { changeRig } from './change-rig';

	/** Where the audio of each instrument comes in. */
	let { rig, revision }: { rig: Rig; revision: number } = $props();
	const audio = $derived(audioOf(rig));
	const index = $derived(indexRig(rig));
	const free = $derived(audio.inputs.filter(({ taken }) => taken === null));
	const nameOf = (id: string | null) => rig.devices.find((device) => device.id === id)?.name ?? '';

	/** Places that a return could go to: a pair for a stereo one, else a single input. */
	function places(entry: AudioReturn): { value: string; name: string; into: string[] }[] {
		if (entry.outs.length === 2)
			return freePairs(audio, entry.device.id).map(([left, right]) => ({
				value: left.port.id,
				name: `${portName(left)} and ${right.port.name}`,
				into: [left.port.id, right.port.id]
			}));
		return audio.inputs
			.filter(({ taken }) => taken === null || taken === entry.device.id)
			.map(({ placed }) => ({ value: placed.port.id, name: portName(placed), into: [placed.port.id] }));
	}

	function plug(entry: AudioReturn, value: string) {
		const place = places(entry).find((candidate) => candidate.value === value);
		const pulls = entry.outs.flatMap(({ port }) =>
			(index.cablesAt.get(port) ?? []).map(({ from, to }): RigChange => ({ do: 'pull', from, to }))
		);
		const plugs = (place?.into ?? []).map((into, i): RigChange => ({
			do: 'plug',
			from: entry.outs[i].port,
			to: into
		}));
		return changeRig(
			[...pulls, ...plugs],
			`${entry.device.name} comes in at ${place?.name ?? 'nothing'}.`,
			revision
		);
	}
</script>

{#if audio.inputs.length === 0}
	<p>
		There is no audio interface with inputs in the catalogue yet. <a class="btn btn-sm" href="/gear/new"
			>Add one</a
		>
	</p>
{:else}
	<p class="mb-3" role="status">
		{count(free.length, 'input')} of {audio.inputs.length}
		{free.length === 1 ? 'is' : 'are'} free: {count(freePairs(audio).length, 'pair')} and {count(
			free.length - 2 * freePairs(audio).length,
			'single input'
		)}.
	</p>
	<div class="grid grid-cols-1 gap-6 xl:grid-cols-[1fr_22rem]">
		<section aria-labelledby="returns-heading">
			<h3 id="returns-heading" class="mb-1">Instruments and where they come in</h3>
			{#if audio.returns.length === 0}<p class="small-print">
					No instrument has an audio output noted. Add its jacks on its Facts page.
				</p>{:else}
				<div class="overflow-x-auto">
					<table class="ledger-table">
						<thead><tr><th>Instrument</th><th>Outputs</th><th>Comes in at</th><th>State</th></tr></thead>
						<tbody>
							{#each audio.returns as entry (entry.device.id)}
								{@const at = entry.outs[0]?.into?.port.id ?? ''}
								<tr>
									<td class="plate">{entry.device.name}</td>
									<td>{entry.outs.length === 2 ? 'stereo' : count(entry.outs.length, 'output')}</td>
									<td>
										<select
											class="select w-64 select-sm"
											aria-label={`Inputs of ${entry.device.name}`}
											value={at}
											onchange={(event) => plug(entry, event.currentTarget.value)}
										>
											<option value="">Not plugged in</option>
											{#if at && !places(entry).some(({ value }) => value === at)}<option value={at}
													>{entry.outs.map(({ into }) => (into ? portName(into) : '—')).join(' and ')}</option
												>{/if}
											{#each places(entry) as place (place.value)}<option value={place.value}
													>{place.name}</option
												>{/each}
										</select>
									</td>
									<td
										>{entry.outs.every(({ into }) => into === null)
											? 'not plugged in'
											: entry.paired
												? 'in order'
												: 'pair torn apart'}</td
									>
								</tr>
							{/each}
						</tbody>
					</table>
				</div>
			{/if}
		</section>
		<section aria-labelledby="inputs-heading">
			<h3 id="inputs-heading" class="mb-1">Audio inputs</h3>
			<ol class="grid grid-cols-2 gap-1">
				{#each audio.inputs as { placed, taken } (placed.port.id)}
					<li class={['rounded border border-line px-2 py-1 text-sm', taken ? 'bg-ground' : 'border-dashed']}>
						<span class="figures">{placed.port.name}</span>
						<span class={taken ? 'plate' : 'text-slate'}>{taken ? nameOf(taken) : 'free'}</span>
					</li>
				{/each}
			</ol>
		</section>
	</div>
{/if}
