<script lang="ts">
	import type { Host } from '$lib/core/rig';

	interface Props {
		host: Host;
		save: (values: Partial<Host>, says: string) => unknown;
	}
	let { host, save }: Props = $props();

	const heardMs = $derived(
		host.latencyMs + (1000 * host.audio.buffer) / host.audio.rate + host.audio.driverMs
	);
	/** Each number: where it stands, what it may be, and what saving it says. */
	const fields = $derived([
		{
			id: 'host-latency',
			label: 'Passing a message on, ms',
			value: host.latencyMs,
			limits: { min: 0, max: 500, step: 0.1 },
			take: (latencyMs: number): Partial<Host> => ({ latencyMs }),
			says: 'Time in the host noted.'
		},
		{
			id: 'host-buffer',
			label: 'Audio buffer, samples',
			value: host.audio.buffer,
			limits: { min: 0, max: 8192, step: 1 },
			take: (buffer: number): Partial<Host> => ({ audio: { ...host.audio, buffer } }),
			says: 'Audio buffer noted.'
		},
		{
			id: 'host-rate',
			label: 'Samples a second',
			value: host.audio.rate,
			limits: { min: 8000, max: 384_000, step: 1 },
			take: (rate: number): Partial<Host> => ({ audio: { ...host.audio, rate } }),
			says: 'Sample rate noted.'
		},
		{
			id: 'host-driver',
			label: 'Driver, ms',
			value: host.audio.driverMs,
			limits: { min: 0, max: 500, step: 0.1 },
			take: (driverMs: number): Partial<Host> => ({ audio: { ...host.audio, driverMs } }),
			says: 'Driver’s time noted.'
		}
	]);
	/** Saves a number that the field allows; anything else is said at the field, and not stored. */
	function changed(field: (typeof fields)[number], input: HTMLInputElement) {
		if (input.value !== '' && input.validity.valid) void save(field.take(input.valueAsNumber), field.says);
		else input.reportValidity();
	}
</script>

<section class="mb-5" aria-labelledby="host-times-heading">
	<h2 id="host-times-heading">Time in the computer</h2>
	<div class="mt-1 flex flex-wrap items-end gap-3">
		{#each fields as field (field.id)}
			<div class="field">
				<label for={field.id}>{field.label}</label>
				<input
					id={field.id}
					type="number"
					class="input w-28 input-sm"
					{...field.limits}
					value={field.value}
					onchange={(event) => changed(field, event.currentTarget)}
				/>
			</div>
		{/each}
		<p class="small-print pb-1">
			A software instrument is heard {heardMs.toFixed(1)} ms after its message came in{host.audio.buffer ===
				0 && host.audio.driverMs === 0
				? '; no audio buffer is noted, so none is counted'
				: ''}.
		</p>
	</div>
</section>
