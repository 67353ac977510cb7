<script lang="ts">
	import {
		betterOrders,
		controlName,
		linked,
		pickUpsOf,
		PICK_UPS,
		restOn,
		stands,
		type ControlMap,
		type PickUp,
		type Told
	} from '$lib/core/control';
	import { count } from '../words';
	import type { OpenMap } from './open-map.svelte';

	/** Which songs take hold of controls that stand elsewhere than their values, and what helps. */
	let { open }: { open: OpenMap } = $props();
	const map = $derived<ControlMap>(open.map);
	const { word } = $derived(map.surface.pages);
	const any = $derived(map.surface.controls.some(stands));
	const songs = $derived(pickUpsOf(map));
	const orders = $derived(betterOrders(map));
	const total = $derived(songs.reduce((sum, { elsewhere }) => sum + elsewhere.length, 0));
	const rests = $derived([
		...new Set(
			map.pages.flatMap(({ number }) => {
				const rest = restOn(map, number);
				return rest ? [controlName(map.surface, rest.control)] : [];
			})
		)
	]);
	const offered = $derived<PickUp[]>([...new Set([...map.surface.pickUp, map.pickUp])]);
	const nameOf = (told: Told) => `${linked(map, told).target?.name ?? told.target} ch ${told.channel}`;
</script>

{#if any && map.songs.length > 0}
	<section class="mt-8" aria-labelledby="pick-up">
		<h2 id="pick-up">Where controls stand elsewhere than their values</h2>
		<div class="field mt-2">
			<label for="pick-up-way">Moved then, on the {map.surface.model}</label>
			<select
				id="pick-up-way"
				class="select w-full max-w-xl select-sm"
				value={map.pickUp}
				onchange={(event) => {
					const way = event.currentTarget.value;
					void open.edit(`Controls ${way}`, () => [{ path: ['pickUp'], value: way }]);
				}}
			>
				{#each offered as way (way)}<option value={way}>{PICK_UPS[way]}</option>{/each}
			</select>
		</div>
		<p class="mt-2 max-w-prose" role="status">
			{#if total === 0}In this set each control that is touched moved the same thing last, or is touched for
				the first time.
			{:else}{count(total, 'touch', 'touches')} of this set can find {total === 1 ? 'its' : 'their'} control elsewhere.{/if}
			<span class="small-print"
				>Reckoned from the songs in their order, each at the nearest {word}. A program change that a song
				touches moves all on its channel; what a hand does between is not in it.</span
			>
		</p>
		{#each rests as name (name)}<p class="mt-1 max-w-prose">
				{name} silences the {map.surface.model} while it is held: move a control to its value first, unheard.
			</p>{/each}
		{#each songs.filter(({ elsewhere }) => elsewhere.length > 0) as { song, elsewhere } (song)}
			{@const order = orders.find((each) => each.song === song)}
			<details class="mt-2" open={songs.length <= 6}>
				<summary>{map.songs[song].name || `Song ${song + 1}`}: {elsewhere.length}</summary>
				<ul class="mt-1 ml-4 list-inside list-disc">
					{#each elsewhere as each (each.touch)}<li>
							{controlName(map.surface, each.control)} on {word}
							{each.page}, for {nameOf(each.told)}: {each.last
								? `it moved ${nameOf(each.last.told)} (${word} ${each.last.page}) last`
								: each.program
									? 'a program change moved that since'
									: 'another control moved that since'}.
						</li>{/each}
				</ul>
				{#if order}<p class="small-print mt-1 ml-4">
						All of a {word} at once, in the order {order.pages.join(', ')}: {order.then === 0
							? 'none'
							: order.then} instead of {order.now}, if the song allows it.
					</p>{/if}
			</details>
		{/each}
	</section>
{/if}
