<script lang="ts">
	import { scaleLinear } from 'd3-scale';
	import type { LatenessReport } from '$lib/core/plan/wire/lateness';

	/** The first moments of each port: when messages were due (ticks) and when they were on the wire (bars). */
	let {
		report,
		title,
		portName,
		deviceName,
		untilMs
	}: {
		report: LatenessReport;
		title: string;
		portName: (id: string) => string;
		deviceName: (id: string) => string;
		untilMs: number;
	} = $props();
	const [width, row] = [900, 24];
	/** As wide as a letter of its labels gets, and the most room that they take. */
	const [LETTER, MOST] = [7.2, 320];
	const ports = $derived([...new Set(report.timeline.map(({ port }) => port))]);
	const left = $derived(
		Math.min(MOST, Math.max(120, 16 + LETTER * Math.max(0, ...ports.map((port) => portName(port).length))))
	);
	const x = $derived(scaleLinear([0, untilMs], [left, width - 10]));
	const slots = $derived(report.timeline.filter(({ startMs }) => startMs <= untilMs));
	const height = $derived(ports.length * row + 26);
</script>

<figure class="overflow-x-auto">
	<figcaption class="small-print">{title}: the first {untilMs} ms on each port</figcaption>
	<svg
		viewBox={`0 0 ${width} ${height}`}
		class="w-full min-w-[700px]"
		role="img"
		aria-label={`Timeline of ${title}, ${slots.length} messages on ${ports.length} ports`}
	>
		{#each ports as port, i (port)}
			<text x={left - 8} y={i * row + 16} text-anchor="end" font-size="12" fill="var(--color-ink)"
				>{portName(port)}</text
			>
			<line x1={left} x2={width - 10} y1={i * row + 20} y2={i * row + 20} stroke="var(--color-line)" />
			{#each slots.filter((slot) => slot.port === port) as slot, n (n)}
				<rect
					x={x(slot.startMs)}
					width={Math.max(1.2, x(slot.endMs) - x(slot.startMs) - 0.6)}
					y={i * row + 7}
					height="13"
					fill="var(--color-pine)"
					><title
						>{deviceName(slot.device)}: due {slot.dueMs.toFixed(2)} ms, on the wire {slot.startMs.toFixed(
							2
						)}–{slot.endMs.toFixed(2)} ms</title
					></rect
				>
				<line
					x1={x(slot.dueMs)}
					x2={x(slot.dueMs)}
					y1={i * row + 2}
					y2={i * row + 7}
					stroke="var(--color-rust)"
					stroke-width="1.5"
				/>
			{/each}
		{/each}
		{#each x.ticks(10) as tick (tick)}<text
				x={x(tick)}
				y={height - 6}
				text-anchor="middle"
				font-size="11"
				fill="var(--color-slate)">{tick}</text
			>{/each}
	</svg>
</figure>
