<script lang="ts">
	import { SCALES, scaleOnPads } from '$lib/core/control';
	import { notices } from '../notices.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** Pads set to a scale: every pad of the page in key. */
	let { open, page }: { open: OpenMap; page: number } = $props();
	const OWN = 'own';
	const { word } = $derived(open.map.surface.pages);
	let key = $state('C');
	let scale = $state<string>('major');
	let own = $state('1 2 b3 5 6');
	let octave = $state(3);
	let rowDegrees = $state(3);
	let channel = $state(10);
	/** Where pads were left without a note, which. */
	let silent = $state.raw<string[]>([]);

	function write(event: SubmitEvent) {
		event.preventDefault();
		const layout = { key, scale: scale === OWN ? own : scale, octave, rowDegrees, middle: 4 } as const;
		const title = `${key} ${scale === OWN ? own : scale}`;
		void open.doing.run(async () => {
			// What is no key or no scale is said, and changes nothing.
			const asked = scaleOnPads(open.map, page, layout, channel);
			const kept = await open.edit(
				`Pads of ${word} ${page} in ${title}`,
				(map) => scaleOnPads(map, page, layout, channel).edits
			);
			if (!kept) return;
			silent = asked.silent;
			notices.say(`The pads of ${word} ${page} are in ${title}.`, 'good');
		});
	}
</script>

<details class="mt-6">
	<summary class="plate">Pads to a scale</summary>
	<form class="mt-2 flex flex-wrap items-end gap-3" onsubmit={write}>
		<div class="field">
			<label for="scale-key">Key</label>
			<input id="scale-key" class="input w-16 input-sm" maxlength="2" bind:value={key} />
		</div>
		<div class="field">
			<label for="scale-name">Scale</label>
			<select id="scale-name" class="select w-44 select-sm" bind:value={scale}>
				{#each Object.keys(SCALES) as name (name)}<option value={name}>{name}</option>{/each}
				<option value={OWN}>degrees of my own</option>
			</select>
		</div>
		{#if scale === OWN}<div class="field">
				<label for="scale-own">Its degrees</label>
				<input id="scale-own" class="input w-40 input-sm" bind:value={own} />
			</div>{/if}
		<div class="field">
			<label for="scale-octave">Lowest octave (middle C is C4)</label>
			<input
				id="scale-octave"
				class="input w-20 input-sm"
				type="number"
				min="-1"
				max="9"
				required
				bind:value={octave}
			/>
		</div>
		<div class="field">
			<label for="scale-rows">A row above: degrees higher</label>
			<input
				id="scale-rows"
				class="input w-20 input-sm"
				type="number"
				min="0"
				max="24"
				required
				bind:value={rowDegrees}
			/>
		</div>
		<div class="field">
			<label for="scale-channel">Channel</label>
			<input
				id="scale-channel"
				class="input w-20 input-sm"
				type="number"
				min="1"
				max="16"
				required
				bind:value={channel}
			/>
		</div>
		<button class="btn btn-sm">Write the pads</button>
	</form>
	{#if silent.length > 0}<p role="status" class="mt-2">
			Beyond the range of notes, and silent on purpose: {silent.join(', ')}.
		</p>{/if}
</details>
