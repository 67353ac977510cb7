<script lang="ts">
	import type { Standing } from '$lib/core/control';

	/** Where a control was heard to stand, a bar, and where its value is, a triangle: along the control's way, from its lower end. */
	let { standing, name }: { standing: Standing; name: string } = $props();
	const WIDTH = 100;
	const at = (share: number) => 8 + share * (WIDTH - 16);
</script>

<span class="stand" title={standing.says}>
	<svg viewBox={`0 0 ${WIDTH} 20`} aria-hidden="true" preserveAspectRatio="none">
		<line x1={at(0)} x2={at(1)} y1="8" y2="8" class="way" />
		<rect x={at(standing.stand ?? 0) - 2} y="1" width="4" height="14" class="knob" />
		{#if standing.value !== null}<path d={`M ${at(standing.value)} 9 l 7 11 h -14 z`} class="value" />{/if}
	</svg>
	<span class="sr-only">{name}: {standing.says}</span>
</span>

<style>
	.stand {
		display: block;
		height: 1.25rem;
	}
	svg {
		display: block;
		width: 100%;
		height: 100%;
	}
	.way {
		stroke: var(--color-line);
		stroke-width: 1.5;
	}
	.knob {
		fill: var(--color-ink);
	}
	.value {
		fill: var(--color-rust);
	}
</style>
