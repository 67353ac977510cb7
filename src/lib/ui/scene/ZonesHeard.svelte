<script lang="ts">
	import { keyName, Performance, setupOf, type Dropped, type Heard } from '$lib/core/scene';
	import type { OpenSet } from './open-set.svelte';

	interface Props {
		open: OpenSet;
		/** The key that was struck. */
		struck: { player: string; key: number } | null;
	}
	/** Which instruments a key would sound by the desk, at which note and velocity, and why others would not. */
	let { open, struck }: Props = $props();
	let velocity = $state(90);

	const heard = $derived.by((): Heard => {
		if (!struck) return { told: [], dropped: [] };
		const performance = new Performance(setupOf(open.set, open.desk));
		return performance.play(struck.player, Uint8Array.of(0x90, struck.key, velocity));
	});
	const notes = $derived(heard.told.filter(({ message }) => message[0] >> 4 === 9));
	const WHY: Record<Dropped['why'], string> = {
		softer: 'it plays what is struck harder',
		harder: 'it plays what is struck softer',
		'no such note': 'there is no such note',
		'out of its range': 'the instrument does not have that note',
		'struck at nothing': 'its instrument is not there'
	};
	const nameOf = (id: string | null) => (id === null ? null : (open.instrument(id)?.name ?? id));
	const zoneName = (id: string) => open.set.setup.zones.find((zone) => zone.id === id)?.name ?? id;
</script>

<section aria-labelledby="heard-title" class="mt-3">
	<div class="flex flex-wrap items-center gap-3">
		<h2 id="heard-title">Who plays</h2>
		<label class="flex items-center gap-2"
			>Struck with <input
				type="range"
				class="range w-36 range-xs"
				min="1"
				max="127"
				bind:value={velocity}
			/><span class="figures w-7">{velocity}</span></label
		>
	</div>
	<div role="status">
		{#if !struck}<p class="small-print">
				Strike a key on a ruler: by what is on the desk, this says who plays it.
			</p>
		{:else}
			<p class="plate">{keyName(struck.key)}</p>
			{#if notes.length + heard.dropped.length === 0}<p>Nobody: no zone that is on has this key.</p>{/if}
			<ul>
				{#each notes as { instrument, channel, message }, i (i)}
					<li class="figures">
						{nameOf(instrument)}{channel === 0 ? ', by its own keys' : `, channel ${channel}`}: {keyName(
							message[1]
						)}, velocity {message[2]}
					</li>
				{/each}
				{#each heard.dropped as { zone, instrument, why }, i (i)}
					<li class="small-print">
						{zoneName(zone)}{instrument ? ` on ${nameOf(instrument)}` : ''} does not: {WHY[why]}.
					</li>
				{/each}
			</ul>
		{/if}
	</div>
</section>
