<script lang="ts">
	import type { Passing } from '$lib/core/pedal';
	import { scaleLinear } from 'd3-scale';
	import { line } from 'd3-shape';

	/** What the box reads: a row for each position of the feet, or a curve from heel to toe. */
	let { passing, name }: { passing: Passing; name: string } = $props();
	const [width, height] = [150, 56];
	const x = scaleLinear([0, 1], [2, width - 2]);
	const y = scaleLinear([0, 1], [height - 2, 2]);
	const draw = line<{ travel: number; level: number }>(
		({ travel }) => x(travel),
		({ level }) => y(level)
	);
</script>

{#if passing.is === 'switches'}
	<table class="text-sm" aria-label={`What the box reads of ${name}`}>
		<thead
			><tr class="small-print"
				><th scope="col" class="pr-3 text-left font-normal">foot</th
				>{#each passing.inputs as input (input)}<th scope="col" class="pr-3 text-left font-normal">{input}</th
					>{/each}</tr
			></thead
		>
		<tbody>
			{#each passing.rows as { at, reads } (at)}
				<tr
					><th scope="row" class="pr-3 text-left font-normal">{at}</th>{#each reads as read, i (i)}<td
							class="pr-3">{read}</td
						>{/each}</tr
				>
			{/each}
		</tbody>
	</table>
{:else if passing.is === 'pot'}
	<figure class="m-0">
		<svg
			{width}
			{height}
			role="img"
			aria-label={`The box reads ${Math.round(passing.curve[0].level * 100)} % at the heel, ${Math.round(
				passing.curve[passing.curve.length >> 1].level * 100
			)} % half way, ${Math.round(passing.curve.at(-1)!.level * 100)} % at the toe`}
		>
			<rect x="1" y="1" width={width - 2} height={height - 2} fill="none" class="stroke-line" />
			<path d={draw(passing.curve)} fill="none" class="stroke-ink" stroke-width="1.6" />
		</svg>
		<figcaption class="small-print flex justify-between" style:width="{width}px">
			<span>heel {Math.round(passing.curve[0].level * 100)} %</span>
			<span>{Math.round(passing.curve.at(-1)!.level * 100)} % toe</span>
		</figcaption>
	</figure>
{/if}
