<script lang="ts">
	import { roving } from '../roving';
	import { select } from 'd3-selection';
	import { line } from 'd3-shape';
	import { zoom, zoomIdentity, type ZoomBehavior } from 'd3-zoom';
	import {
		checkJoin,
		checkRig,
		findLoops,
		indexRig,
		pathCables,
		silentCables,
		type Rig
	} from '$lib/core/rig';
	import type { RigMap } from '$lib/core/rig';

	interface Props {
		rig: Rig;
		map: RigMap;
		selected: string | null;
		onSelect: (id: string | null) => void;
	}
	let { rig, map, selected, onSelect }: Props = $props();
	let frame: SVGSVGElement | undefined = $state();
	let view = $state('');
	let behaviour: ZoomBehavior<SVGSVGElement, unknown> | undefined;

	const index = $derived(indexRig(rig));
	const silent = $derived(silentCables(rig));
	const lit = $derived(selected ? pathCables(rig, selected) : new Set<string>());
	const looping = $derived(
		new Set(
			findLoops(rig).flatMap(({ edges }) =>
				edges.filter(({ kind }) => kind === 'cable').map(({ from, to }) => `${from.id} ${to.id}`)
			)
		)
	);
	const troubled = $derived(
		new Set(
			checkRig(rig)
				.filter(({ severity }) => severity !== 'note')
				.flatMap(({ about }) => about)
		)
	);
	const way = line();

	/** Where a word about a cable stands: above it, or below the boxes that it is squeezed between. */
	function wordAt(points: [number, number][]): [number, number] {
		const [x, y] = points[Math.floor((points.length - 1) / 2)];
		const short = Math.abs(points[0][0] - points.at(-1)![0]) < 60 && points.length <= 2;
		return short ? [x - 30, y + 28] : [x + 4, y - 5];
	}

	const cables = $derived(
		map.cables.flatMap((cable) => {
			const [from, to] = [index.ports.get(cable.from), index.ports.get(cable.to)];
			const real = rig.cables.find((entry) => entry.from === cable.from && entry.to === cable.to);
			if (!from || !to || !real || cable.points.length === 0) return [];
			const key = `${cable.from} ${cable.to}`;
			const connectors = [from.port.connector, to.port.connector];
			return [
				{
					...cable,
					key,
					d: way(cable.points) ?? '',
					word: wordAt(cable.points),
					kind: connectors.includes('audio')
						? 'audio'
						: connectors.includes('pedal')
							? 'pedal'
							: connectors.some((c) => c.startsWith('usb'))
								? 'usb'
								: connectors.some((c) => c.startsWith('trs'))
									? 'trs'
									: 'din',
					broken: !checkJoin(from, to, real.adapter).fits,
					loop: looping.has(key),
					silent: silent.has(key),
					lit: lit.has(key)
				}
			];
		})
	);

	$effect(() => {
		if (!frame) return;
		behaviour = zoom<SVGSVGElement, unknown>()
			.scaleExtent([0.2, 4])
			.on('zoom', (event) => (view = String(event.transform)));
		select(frame).call(behaviour);
		return () => select(frame!).on('.zoom', null);
	});
	const scale = (factor: number) => frame && behaviour && select(frame).call(behaviour.scaleBy, factor);
	const fit = () => frame && behaviour && select(frame).call(behaviour.transform, zoomIdentity);

	function press(event: KeyboardEvent, id: string) {
		if (event.key !== 'Enter' && event.key !== ' ') return;
		event.preventDefault();
		event.stopPropagation();
		onSelect(selected === id ? null : id);
	}
</script>

<div class="mb-2 flex flex-wrap items-center gap-2 print:hidden">
	<button class="btn btn-sm" onclick={() => scale(1.3)}>Zoom in</button>
	<button class="btn btn-sm" onclick={() => scale(1 / 1.3)}>Zoom out</button>
	<button class="btn btn-sm" onclick={fit}>Fit</button>
	<button class="btn btn-sm" onclick={() => window.print()}>Print the map</button>
	<ul class="legend" aria-label="Kinds of cable">
		<li><svg width="34" height="10" aria-hidden="true"><path d="M0 5h34" class="cable din" /></svg> DIN</li>
		<li><svg width="34" height="10" aria-hidden="true"><path d="M0 5h34" class="cable trs" /></svg> TRS</li>
		<li><svg width="34" height="10" aria-hidden="true"><path d="M0 5h34" class="cable usb" /></svg> USB</li>
		<li>
			<svg width="34" height="10" aria-hidden="true"><path d="M0 5h34" class="cable audio" /></svg> audio
		</li>
		{#if cables.some(({ kind }) => kind === 'pedal')}<li>
				<svg width="34" height="10" aria-hidden="true"><path d="M0 5h34" class="cable pedal" /></svg> pedal
			</li>{/if}
	</ul>
</div>
<svg
	bind:this={frame}
	class="map"
	viewBox={`-8 -8 ${map.width + 16} ${map.height + 16}`}
	role="group"
	aria-label="Map of the studio"
	{@attach roving('.device')}
>
	<g transform={view}>
		{#each map.places as place (place.name)}
			<rect class="place" x={place.x} y={place.y} width={place.width} height={place.height} rx="6" />
			<text class="place-name" x={place.x + 12} y={place.y + 20}>{place.name}</text>
		{/each}
		{#each cables as cable (cable.key)}
			<path
				data-cable={cable.key}
				d={cable.d}
				class={[
					'cable',
					cable.kind,
					cable.broken && 'broken',
					cable.loop && 'loop',
					cable.silent && 'silent',
					cable.lit && 'lit',
					selected && !cable.lit && 'dimmed'
				]}
			/>
		{/each}
		{#each map.devices as device (device.id)}
			<g
				class={['device', selected === device.id && 'is-selected', troubled.has(device.id) && 'is-troubled']}
				role="button"
				tabindex="0"
				aria-pressed={selected === device.id}
				aria-label={`${device.name}${troubled.has(device.id) ? ', has a problem' : ''}`}
				onclick={() => onSelect(selected === device.id ? null : device.id)}
				onkeydown={(event) => press(event, device.id)}
			>
				<rect x={device.x} y={device.y} width={device.width} height={device.height} rx="3" />
			</g>
		{/each}
		<!-- Names are drawn apart: what a device is called is said by its button. -->
		<g aria-hidden="true" class="names">
			{#each map.devices as device (device.id)}
				<text class="device-name" x={device.x + 10} y={device.y + 18}
					>{troubled.has(device.id) ? '◆ ' : ''}{device.name}</text
				>
				{#each device.sockets as socket (socket.id)}
					<circle cx={socket.x} cy={socket.y} r="3" />
					<text
						class="socket-name"
						x={socket.x + (socket.side === 'left' ? 7 : -7)}
						y={socket.y + 3.5}
						text-anchor={socket.side === 'left' ? 'start' : 'end'}>{socket.name}</text
					>
				{/each}
			{/each}
		</g>
		{#each cables.filter(({ broken, loop, silent: quiet }) => broken || loop || quiet) as cable (cable.key)}
			<text
				class={['cable-word', (cable.broken || cable.loop) && 'is-bad']}
				x={cable.word[0]}
				y={cable.word[1]}>{cable.broken ? '✕ does not fit' : cable.loop ? '⟳ loop' : 'silent'}</text
			>
		{/each}
	</g>
</svg>

<style>
	.map {
		width: 100%;
		height: min(62vh, 620px);
		border: 1px solid var(--color-line);
		border-radius: 6px;
		background: var(--color-sheet);
		cursor: grab;
		touch-action: none;
	}
	.place {
		fill: var(--color-ground);
		stroke: var(--color-line);
	}
	.place-name {
		font: 600 14px var(--font-slab);
		fill: var(--color-slate);
	}
	.cable {
		fill: none;
		stroke: var(--color-ink);
		stroke-width: 1.4;
	}
	.cable.trs {
		stroke-dasharray: 7 3;
	}
	.cable.usb {
		stroke-width: 3;
		stroke: var(--color-slate);
	}
	.cable.audio {
		stroke-dasharray: 1.5 3;
	}
	.cable.pedal {
		stroke-dasharray: 9 3 2 3;
	}
	.cable.silent {
		stroke: var(--color-slate);
		stroke-dasharray: 2 7;
	}
	.cable.broken,
	.cable.loop {
		stroke: var(--color-rust);
		stroke-width: 2.6;
	}
	.cable.lit {
		stroke: var(--color-chosen);
		stroke-width: 4;
	}
	.cable.dimmed {
		opacity: 0.35;
	}
	.cable-word {
		font-size: 11px;
		fill: var(--color-slate);
		paint-order: stroke;
		stroke: var(--color-ground);
		stroke-width: 4px;
	}
	.cable-word.is-bad {
		fill: var(--color-rust);
		font-weight: 600;
	}
	.device {
		cursor: pointer;
	}
	.device rect {
		fill: var(--color-sheet);
		stroke: var(--color-slate);
		stroke-width: 1.2;
	}
	.device.is-troubled rect {
		stroke: var(--color-rust);
	}
	.device.is-selected rect,
	.device:focus-visible rect {
		stroke: var(--color-chosen);
		stroke-width: 3;
	}
	.device:focus-visible {
		outline: none;
	}
	.names {
		pointer-events: none;
	}
	.names circle {
		fill: var(--color-sheet);
		stroke: var(--color-ink);
	}
	.device-name {
		font: 600 14px var(--font-slab);
		fill: var(--color-ink);
	}
	.socket-name {
		font-size: 10px;
		fill: var(--color-slate);
	}
	.legend {
		display: flex;
		gap: 14px;
		margin-left: 8px;
		font-size: 0.85rem;
	}
	.legend li {
		display: flex;
		align-items: center;
		gap: 5px;
	}
	@media print {
		.map {
			height: auto;
			border: 0;
		}
	}
</style>
