<script lang="ts">
	import { scaleLinear } from 'd3-scale';
	import { keyName, keysName, lanesOf, type Player, type Zone } from '$lib/core/scene';

	interface Props {
		player: Player;
		/** Zones of this player. */
		zones: readonly Zone[];
		chosen: string | null;
		choose: (zone: string) => void;
		/** A key of the ruler was struck. */
		strike: (key: number) => void;
		/** It is let go. */
		release: () => void;
		/** The key that was struck last; null where it was another player's. */
		struck: number | null;
	}
	/** A player's keys as a ruler with octave marks, its zones as bars over them; struck by pointer or keyboard. */
	let { player, zones, chosen, choose, strike, release, struck }: Props = $props();
	let at = $state(60);
	let ruler = $state<HTMLElement>();

	const low = $derived(player.keys[0]);
	const high = $derived(player.keys[1]);
	const x = $derived(scaleLinear([low, high + 1], [0, 100]));
	const within = (key: number) => Math.min(high, Math.max(low, key));
	const bars = $derived.by(() => {
		const shown = zones.filter(({ keys }) => keys[0] <= high && keys[1] >= low);
		const lanes = lanesOf(shown.map(({ keys }) => [within(keys[0]), within(keys[1])] as const));
		return shown.map((zone, i) => ({ zone, lane: lanes[i] }));
	});
	const lanes = $derived(Math.max(1, ...bars.map(({ lane }) => lane + 1)));
	const octaves = $derived(
		Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((key) => key % 12 === 0)
	);
	const now = $derived(within(at));

	function press(event: PointerEvent) {
		const { left, width } = ruler!.getBoundingClientRect();
		at = within(Math.floor(x.invert(((event.clientX - left) / width) * 100)));
		strike(at);
	}
	function keydown(event: KeyboardEvent) {
		const move = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageDown: -12, PageUp: 12 }[
			event.key
		];
		if (move !== undefined) at = within(now + move);
		else if (event.key === 'Home') at = low;
		else if (event.key === 'End') at = high;
		else if (event.key === 'Enter' || event.key === ' ') {
			if (!event.repeat) strike(now);
		} else return;
		event.preventDefault();
	}
</script>

<svelte:window onpointerup={release} onpointercancel={release} />

<div class="relative" style:height={`${lanes * 2.5 + 2.25}rem`}>
	{#each bars as { zone, lane } (zone.id)}
		<button
			class={['zone-bar', !zone.on && 'is-off', zone.id === chosen && 'is-chosen']}
			style:left={`${x(within(zone.keys[0]))}%`}
			style:width={`${x(within(zone.keys[1]) + 1) - x(within(zone.keys[0]))}%`}
			style:top={`${lane * 2.5}rem`}
			aria-pressed={zone.id === chosen}
			title={`${zone.name}: ${keysName(zone.keys)}, struck with ${zone.struck[0]}–${zone.struck[1]}`}
			onclick={() => choose(zone.id)}
		>
			<span
				class="zone-velocity"
				aria-hidden="true"
				style:bottom={`${((zone.struck[0] - 1) / 127) * 100}%`}
				style:height={`${((zone.struck[1] - zone.struck[0] + 1) / 127) * 100}%`}
			></span>
			<span class="relative truncate">{zone.name}{zone.on ? '' : ' (off)'}</span>
		</button>
	{/each}
	<div
		bind:this={ruler}
		class="octave-ruler"
		role="slider"
		tabindex="0"
		aria-label={`Keys of ${player.name}`}
		aria-valuemin={low}
		aria-valuemax={high}
		aria-valuenow={now}
		aria-valuetext={keyName(now)}
		onpointerdown={press}
		onkeydown={keydown}
		onkeyup={release}
		onblur={release}
	>
		{#each octaves as key (key)}
			<span class="octave-mark" style:left={`${x(key)}%`}><span>{keyName(key)}</span></span>
		{/each}
		{#each [struck ?? now].filter((key) => key >= low && key <= high) as key (key)}
			<span
				class={['octave-key', struck !== null && 'is-struck']}
				style:left={`${x(key)}%`}
				style:width={`${x(key + 1) - x(key)}%`}
			></span>
		{/each}
	</div>
</div>

<style>
	.zone-bar {
		position: absolute;
		height: 2.25rem;
		overflow: hidden;
		padding: 0 0.5rem;
		display: flex;
		align-items: center;
		font-family: var(--font-slab);
		font-weight: 600;
		font-size: 0.875rem;
		text-align: left;
		background: var(--color-sheet);
		border: 1px solid var(--color-line);
		border-radius: 2px;
		cursor: pointer;
	}
	.zone-bar.is-off {
		border-style: dashed;
		color: var(--color-slate);
	}
	.zone-bar.is-chosen {
		outline: 2px solid var(--color-primary);
	}
	.zone-velocity {
		position: absolute;
		inset-inline: 0;
		background: var(--color-ground);
		border-block: 1px solid var(--color-line);
	}
	.octave-ruler {
		position: absolute;
		inset-inline: 0;
		bottom: 0;
		height: 2.25rem;
		border-top: 2px solid var(--color-ink);
		touch-action: none;
		cursor: pointer;
	}
	.octave-mark {
		position: absolute;
		top: 0;
		height: 0.75rem;
		border-left: 1px solid var(--color-ink);
		font-size: 0.75rem;
		font-variant-numeric: tabular-nums;
		pointer-events: none;
	}
	.octave-mark > span {
		position: absolute;
		top: 0.7rem;
		left: -0.1rem;
	}
	.octave-key {
		position: absolute;
		top: 0;
		height: 0.75rem;
		background: color-mix(in srgb, var(--color-primary) 45%, transparent);
		pointer-events: none;
	}
	.octave-key.is-struck {
		background: var(--color-primary);
	}
</style>
