<script lang="ts">
	import type { SurfaceControl } from '$lib/core/control';

	interface Props {
		control: SurfaceControl;
		/** In millimetres; what is taller is drawn broken off. */
		tallest: number;
		due: boolean;
		spoke: boolean;
	}
	/** A control as a plain outline in millimetres, by what a hand does with it. */
	let { control, tallest, due, spoke }: Props = $props();
	const { x, y, width, kind } = $derived(control);
	const height = $derived(Math.min(control.height, tallest));
	const broken = $derived(control.height > tallest);
	const round = $derived(kind === 'knob' || kind === 'encoder' || kind === 'socket');
	const [cx, cy] = $derived([x + width / 2, y + height / 2]);
	const r = $derived(Math.min(width, height) / 2 - 0.6);
</script>

<g class={['shape', due && 'due', spoke && 'spoke']}>
	{#if round}
		<circle {cx} {cy} {r} />
		{#if kind === 'knob'}<path d={`M${cx} ${cy - r}v${r * 0.55}`} />
			<path d={`M${cx - r * 0.75} ${cy + r * 0.75}l-0.9 0.9M${cx + r * 0.75} ${cy + r * 0.75}l0.9 0.9`} />
		{:else if kind === 'encoder'}<circle {cx} {cy} r={r * 0.62} />
		{:else}<circle {cx} {cy} r={r * 0.3} />{/if}
	{:else if kind === 'fader'}
		<path d={`M${cx} ${y + 0.6}V${y + height - 0.6}`} />
		<rect x={cx - width * 0.4} y={y + height * 0.55} width={width * 0.8} height="5" rx="0.6" />
	{:else if kind === 'strip' || kind === 'axis'}
		<rect
			x={x + 0.4}
			y={y + 0.4}
			width={width - 0.8}
			height={height - 0.8}
			rx={Math.min(width, height) / 4}
		/>
		<path d={width > height ? `M${cx} ${y + 2}V${y + height - 2}` : `M${x + 2} ${cy}H${x + width - 2}`} />
	{:else if kind === 'keys'}
		<rect x={x + 0.4} y={y + 0.4} width={width - 0.8} height={height - 0.8} />
		{#each Array.from({ length: Math.floor(width / 23.5) }, (_, i) => x + (i + 1) * 23.5) as at (at)}<path
				d={`M${at} ${y + 0.4}V${y + height - 0.4}`}
			/>{/each}
	{:else}
		<rect x={x + 0.4} y={y + 0.4} width={width - 0.8} height={height - 0.8} rx={kind === 'pad' ? 2 : 0.8} />
	{/if}
	{#if broken}<path d={`M${x} ${y + height - 1}l${width / 2} -2v3l${width / 2} -2`} />{/if}
</g>

<style>
	.shape {
		fill: none;
		stroke: var(--color-slate);
		stroke-width: 1.5;
	}
	.shape * {
		vector-effect: non-scaling-stroke;
	}
	.due {
		stroke: var(--color-going);
		stroke-width: 3;
		stroke-dasharray: 6 3;
	}
	.spoke {
		stroke: var(--color-pine);
		stroke-width: 3;
	}
</style>
