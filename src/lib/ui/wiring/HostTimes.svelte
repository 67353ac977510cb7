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
	/** Saves a number that the field allows; anything else goes back to what was. */
	const changed =
		(take: (value: number) => Partial<Host>, says: string) =>
		(event: Event & { currentTarget: HTMLInputElement }) => {
			const { value, valueAsNumber, validity } = event.currentTarget;
			if (value !== '' && validity.valid) void save(take(valueAsNumber), says);
			else event.currentTarget.reportValidity();
		};
</script>

<section class="mb-5" aria-labelledby="host-times-heading">
	<h2 id="host-times-heading">Time in the computer</h2>
	<div class="mt-1 flex flex-wrap items-end gap-3">
		<div class="field">
			<label for="host-latency">Passing a message on, ms</label>
			<input
				id="host-latency"
				type="number"
				class="input w-28 input-sm"
				min="0"
				max="500"
				step="0.1"
				value={host.latencyMs}
				onchange={changed((latencyMs) => ({ latencyMs }), 'Time in the host noted.')}
			/>
		</div>
		<div class="field">
			<label for="host-buffer">Audio buffer, samples</label>
			<input
				id="host-buffer"
				type="number"
				class="input w-28 input-sm"
				min="0"
				max="8192"
				step="1"
				value={host.audio.buffer}
				onchange={changed((buffer) => ({ audio: { ...host.audio, buffer } }), 'Audio buffer noted.')}
			/>
		</div>
		<div class="field">
			<label for="host-rate">Samples a second</label>
			<input
				id="host-rate"
				type="number"
				class="input w-28 input-sm"
				min="8000"
				max="384000"
				step="1"
				value={host.audio.rate}
				onchange={changed((rate) => ({ audio: { ...host.audio, rate } }), 'Sample rate noted.')}
			/>
		</div>
		<div class="field">
			<label for="host-driver">Driver, ms</label>
			<input
				id="host-driver"
				type="number"
				class="input w-28 input-sm"
				min="0"
				max="500"
				step="0.1"
				value={host.audio.driverMs}
				onchange={changed((driverMs) => ({ audio: { ...host.audio, driverMs } }), 'Driver’s time noted.')}
			/>
		</div>
		<p class="small-print pb-1">
			A software instrument is heard {heardMs.toFixed(1)} ms after its message came in{host.audio.buffer ===
				0 && host.audio.driverMs === 0
				? '; no audio buffer is noted, so none is counted'
				: ''}.
		</p>
	</div>
</section>
