<script lang="ts">
	import { jackOf, type FootLine, type KeptCalibration } from '$lib/core/pedal';
	import { BenchFoot } from '$lib/hardware/bench-foot';
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import FilePick from '../FilePick.svelte';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';
	import { count } from '../words';
	import type { OpenFloor } from './open-floor.svelte';
	import { PedalEar } from './pedal-ear.svelte';
	import TravelChart from './TravelChart.svelte';

	/** The ends, the noise and the worn places of a pedal, heard from its box while a foot goes through its way. */
	let { open, line, name }: { open: OpenFloor; line: FootLine; name: string } = $props();
	const ear = new PedalEar();
	const kept = $derived(open.floor.calibrations.find((each) => each.line === line.id) ?? null);
	const found = $derived(ear.told?.is === 'heard' ? ear.told.calibration : null);
	const shown = $derived(found ?? kept);
	const pedal = $derived(open.floor.pedals.find(({ id }) => id === line.pedals[0]));
	const pot = $derived(pedal?.parts.find((part) => part.is === 'pot'));
	const box = $derived(jackOf(open.floor, line.jacks[0])?.box.name ?? '');
	/** What its box is noted to send; controller 11 is expression by the specification. */
	const sends = $derived(line.sends ?? { controller: 11, channel: 1 });
	const foot = $derived(
		desk.world === 'bench' && pedal && pot
			? new BenchFoot({ pot, ...pedal.bench }, { port: `${box} (bench)`, ...sends })
			: null
	);
	$effect(() => {
		const on = foot;
		return () => on?.letGo();
	});
	$effect(() => () => ear.stop());
	$effect(() => {
		if (!ear.listening || desk.world !== 'hardware') return;
		return midiDesk.hearAll();
	});
	const other = $derived(
		ear.taken &&
			line.sends &&
			(ear.taken.controller !== line.sends.controller || ear.taken.channel !== line.sends.channel)
	);

	async function keep() {
		if (!found || !ear.taken) return;
		const { heel, toe, noise, deadHeel, deadToe, worn } = found;
		const { controller, channel } = ear.taken;
		const calibration: KeptCalibration = {
			line: line.id,
			controller,
			channel,
			at: new Date().toISOString(),
			world: ear.recorded ? 'file' : desk.world,
			heel,
			toe,
			noise,
			deadHeel,
			deadToe,
			worn
		};
		const done = await open.edit(`${name}: calibrated`, (floor) => [
			{
				path: ['calibrations'],
				value: [...floor.calibrations.filter((each) => each.line !== line.id), calibration]
			},
			{
				path: ['lines', floor.lines.findIndex(({ id }) => id === line.id), 'sends'],
				value: { controller, channel }
			}
		]);
		if (done) ear.done();
	}
</script>

<div class="min-w-64">
	<div class="flex flex-wrap items-center gap-2">
		{#if ear.listening}
			<button class="btn btn-sm" onclick={() => ear.stop()}>Stop listening</button>
		{:else}
			<button class="btn btn-sm" onclick={() => ear.begin()}
				>{kept ? 'Calibrate again' : 'Calibrate'}<span class="sr-only"> {name}</span></button
			>
		{/if}
		{#if !ear.listening}
			<FilePick
				title="From a recording"
				accept=".mid,.midi,audio/midi"
				picked={(file) =>
					open.doing.run(async () => ear.read(file.name, new Uint8Array(await file.arrayBuffer())))}
			/>
		{/if}
		{#if kept && !ear.listening}
			<span class="small-print"
				>calibrated <When at={kept.at} />{kept.world === 'hardware'
					? ''
					: kept.world === 'bench'
						? ' on the bench'
						: ' from a file'}</span
			>
		{/if}
	</div>
	{#if ear.listening || ear.recorded}
		<p class="mt-1" role="status">
			{#if ear.told?.is === 'wanting'}{ear.told.says}
			{:else if found}Both ends were heard. Go through it once more to see what is worn, or keep it.
			{:else}Hold the heel down for a second, go slowly to the toe, and hold that.{/if}
		</p>
		{#if ear.taken}
			<p class="small-print">
				{ear.taken.port}: controller {ear.taken.controller} on channel {ear.taken.channel}, now
				<span class="tabular-nums">{ear.value}</span>
			</p>
			{#if other}<p class="flex items-center gap-1.5">
					<StateMark state="attention" size={11} /> Noted is controller {line.sends!.controller} on channel
					{line.sends!.channel}: is this the pedal?
				</p>{/if}
		{/if}
		{#if foot && ear.listening}
			<div class="mt-1 flex flex-wrap items-center gap-2">
				<label class="small-print" for={`foot-${line.id}`}>Foot on the bench</label>
				<input
					id={`foot-${line.id}`}
					type="range"
					class="range w-40 range-xs"
					min="0"
					max="1"
					step="0.01"
					value="0"
					oninput={(event) => foot.moveTo(Number(event.currentTarget.value))}
				/>
				<button class="btn btn-xs" onclick={() => foot.goThrough(2)}>Go through it twice</button>
			</div>
		{/if}
	{/if}
	{#if shown}
		<div class="mt-2 flex flex-wrap items-start gap-x-4 gap-y-2">
			<TravelChart
				calibration={shown}
				stream={found ? ear.stream : null}
				readings={open.floor.presets.flatMap((preset) =>
					preset.reads
						.filter(({ from }) =>
							'slot' in from
								? open.floor.feeds.some(
										(feed) => feed.line === line.id && feed.box === preset.box && feed.slot === from.slot
									)
								: line.jacks.some((at) => at.box === preset.box && at.jack === from.jack)
						)
						.map((reading) => ({ title: `${preset.name}: ${reading.parameter}`, reading }))
				)}
			/>
			<dl class="grid grid-cols-[auto_auto] gap-x-3 text-sm">
				<dt>Heel</dt>
				<dd class="tabular-nums">{shown.heel.toFixed(1)}</dd>
				<dt>Toe</dt>
				<dd class="tabular-nums">{shown.toe.toFixed(1)}</dd>
				<dt>Direction</dt>
				<dd>{shown.heel <= shown.toe ? 'rises' : 'falls'}</dd>
				<dt>Wanders over</dt>
				<dd>{shown.noise === 1 ? 'nothing' : count(shown.noise, 'value')}</dd>
				<dt>Dead zones</dt>
				<dd class="tabular-nums">to {shown.deadHeel}, from {shown.deadToe}</dd>
				<dt>Steps to be told apart</dt>
				<dd class="tabular-nums">{Math.floor(Math.abs(shown.deadToe - shown.deadHeel) / shown.noise)}</dd>
			</dl>
		</div>
		{#each shown.worn as { from, to, times } (`${from} ${to}`)}
			<p class="mt-1 flex items-center gap-1.5">
				<StateMark state="attention" size={11} /> It leapt from {from} to {to}, {times} times: the track is likely
				worn there.
			</p>
		{/each}
		{#if found}<button
				class="btn mt-2 btn-primary btn-sm"
				disabled={open.doing.busy}
				onclick={() => void keep()}>Keep it</button
			>{/if}
	{/if}
</div>
