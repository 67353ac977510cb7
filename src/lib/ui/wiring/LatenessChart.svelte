<script lang="ts">
	import { max } from 'd3-array';
	import { scaleLinear } from 'd3-scale';
	import type { LatenessReport } from '$lib/core/plan/wire/lateness';

	/** How many messages are how late. */
	let { report, title, most, binMs }: { report: LatenessReport; title: string; most: number; binMs: number } =
		$props();
	const [width, height, left, bottom] = [430, 150, 44, 30];
	const counts = $derived(report.histogram.counts);
	const x = $derived(scaleLinear([0, Math.max(most, report.histogram.binMs)], [left, width - 8]));
	const y = $derived(scaleLinear([0, max(counts) ?? 1], [height - bottom, 8]).nice(3));
</script>

<figure>
	<figcaption class="small-print">{title}</figcaption>
	<svg
		viewBox={`0 0 ${width} ${height}`}
		class="w-full max-w-xl"
		role="img"
		aria-label={`Lateness of messages, ${title}: ${counts
			.map((count, i) => `${count} up to ${((i + 1) * report.histogram.binMs).toFixed(2)} ms`)
			.slice(0, 12)
			.join(', ')}`}
	>
		{#each y.ticks(3) as tick (tick)}
			<line x1={left} x2={width - 8} y1={y(tick)} y2={y(tick)} stroke="var(--color-line)" />
			<text x={left - 6} y={y(tick) + 4} text-anchor="end" font-size="11" fill="var(--color-slate)"
				>{tick}</text
			>
		{/each}
		{#each counts as count, i (i)}
			<rect
				x={x(i * report.histogram.binMs)}
				width={Math.max(1, x(binMs) - x(0) - 1)}
				y={y(count)}
				height={height - bottom - y(count)}
				fill="var(--color-brass)"
			/>
		{/each}
		{#each x.ticks(6) as tick (tick)}<text
				x={x(tick)}
				y={height - 14}
				text-anchor="middle"
				font-size="11"
				fill="var(--color-slate)">{tick}</text
			>{/each}
		<text x={width - 8} y={height - 2} text-anchor="end" font-size="11" fill="var(--color-slate)"
			>ms late</text
		>
	</svg>
</figure>
