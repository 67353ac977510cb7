<script lang="ts">
	import { engagedTimes, travelOf, valueInUnit, type Heard, type Reading } from '$lib/core/pedal';
	import { scaleLinear } from 'd3-scale';
	import { line } from 'd3-shape';

	interface Props {
		calibration: { deadHeel: number; deadToe: number; noise: number };
		/** What presets make of the pedal. */
		readings: { title: string; reading: Reading }[];
		/** What was heard just now. */
		stream?: { heard: readonly Heard[]; untilMs: number } | null;
	}
	/** The way from heel to toe as the values that arrive, and what a parameter makes of it in its own unit. */
	let { calibration, readings, stream = null }: Props = $props();
	const [width, height, left, bottom] = [230, 110, 44, 16];
	let chosen = $state(0);
	const shown = $derived(readings[Math.min(chosen, readings.length - 1)]);
	const reading = $derived(
		shown?.reading ?? { least: 0, most: 100, unit: '%', response: { shape: 'even' as const } }
	);
	const x = scaleLinear([0, 127], [left, width - 6]);
	const y = $derived(
		scaleLinear(
			[reading.least, reading.most].toSorted((a, b) => a - b),
			[height - bottom, 6]
		)
	);
	const points = $derived(
		Array.from({ length: 128 }, (_, value) => ({
			value,
			unit: valueInUnit(reading, travelOf(calibration, value))
		}))
	);
	const draw = $derived(
		line<{ value: number; unit: number }>(
			({ value }) => x(value),
			({ unit }) => y(unit)
		)
	);
	/** When the effect would have been engaged, by what was heard: seconds from its beginning. */
	const engaged = $derived(
		stream && shown?.reading.engages
			? engagedTimes(
					shown.reading.engages,
					stream.heard.map(({ atMs, value }) => ({ atMs, travel: travelOf(calibration, value) })),
					stream.untilMs
				).map(({ fromMs, toMs }) =>
					[fromMs, toMs].map((ms) => (ms === null ? null : (ms - stream.heard[0].atMs) / 1000))
				)
			: null
	);
	const number = (value: number) => value.toLocaleString('en', { maximumFractionDigits: 1 });
</script>

<div class="max-w-64">
	<figure class="m-0">
		<svg
			{width}
			{height}
			role="img"
			aria-label={`${shown?.title ?? 'The whole range'}: ${number(reading.least)} ${reading.unit} up to the value ${calibration.deadHeel}, ${number(valueInUnit(reading, 0.5))} ${reading.unit} half way, ${number(reading.most)} ${reading.unit} from ${calibration.deadToe} on`}
		>
			{#each [calibration.deadHeel, calibration.deadToe] as end (end)}
				<line
					x1={x(end)}
					x2={x(end)}
					y1="6"
					y2={height - bottom}
					class="stroke-line"
					stroke-dasharray="3 3"
				/>
				<text x={x(end)} y={height - 4} text-anchor="middle" class="fill-slate text-[10px]">{end}</text>
			{/each}
			{#each [reading.least, reading.most] as end (end)}
				<text x={left - 4} y={y(end) + 4} text-anchor="end" class="fill-slate text-[10px]"
					>{number(end)} {reading.unit}</text
				>
			{/each}
			<path d={draw(points)} fill="none" class="stroke-ink" stroke-width="1.6" />
		</svg>
		{#if readings.length > 1}
			<figcaption>
				<select class="select w-56 select-xs" aria-label="What reads the pedal" bind:value={chosen}>
					{#each readings as { title }, i (i)}<option value={i}>{title}</option>{/each}
				</select>
			</figcaption>
		{:else}<figcaption class="small-print">
				{shown?.title ?? 'Nothing reads it yet: 0 to 100 %'}
			</figcaption>{/if}
	</figure>
	{#if engaged}
		<p class="small-print">
			By what was heard it would have been engaged {engaged.length === 0
				? 'never'
				: engaged
						.map(([from, to]) => `from ${from!.toFixed(1)} s ${to === null ? 'on' : `to ${to.toFixed(1)} s`}`)
						.join(', ')}.
		</p>
	{/if}
</div>
