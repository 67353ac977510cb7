<script lang="ts">
	import { footPresetSchema, readingSchema } from '$lib/core/pedal';
	import { uniqueId } from '$lib/core/unique-id';
	import type { OpenFloor } from './open-floor.svelte';

	/** What a preset's parameter does with a slot, or with a jack outright. */
	let { open }: { open: OpenFloor } = $props();
	let [preset, parameter, unit, from, least, most] = $state(['', '', '', '', '', '']);
	let shape = $state<'even' | 'slow start' | 'fast start' | 'own points'>('even');
	let points = $state('');
	let engages = $state(false);
	let [above, waitMs, releaseMs] = $state(['5', '50', '1000']);
	const sources = $derived(
		open.floor.boxes.flatMap((box) => [
			...Array.from({ length: box.slots }, (_, i) => ({
				key: JSON.stringify([box.id, i + 1]),
				box: box.id,
				from: { slot: i + 1 } as { slot: number } | { jack: string },
				title: `${box.name}, slot ${i + 1}`
			})),
			...box.jacks
				.filter(({ modes }) => modes.some(({ takes }) => takes === 'expression'))
				.map((jack) => ({
					key: JSON.stringify([box.id, jack.id]),
					box: box.id,
					from: { jack: jack.id } as { slot: number } | { jack: string },
					title: `${box.name}, ${jack.name} outright`
				}))
		])
	);
	/** Pairs of percentages such as “30 10, 60 50”; null where that is none. */
	const pairs = $derived.by(() => {
		const read = points
			.split(',')
			.map((pair) =>
				pair
					.trim()
					.split(/\s+/)
					.map((each) => (each === '' ? NaN : Number(each) / 100))
			)
			.filter(({ length }) => length > 0);
		return read.length > 0 &&
			read.every((pair) => pair.length === 2 && pair.every((each) => each >= 0 && each <= 1))
			? (read as [number, number][])
			: null;
	});
	const source = $derived(sources.find(({ key }) => key === from));
	const whole = $derived(
		preset.trim() !== '' &&
			parameter.trim() !== '' &&
			source !== undefined &&
			[least, most].every((text) => text.trim() !== '' && Number.isFinite(Number(text))) &&
			(shape !== 'own points' || pairs !== null)
	);

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const to = source;
		if (!whole || !to) return;
		const name = preset.trim();
		const reading = readingSchema.parse({
			parameter,
			unit,
			from: to.from,
			least: Number(least),
			most: Number(most),
			response: shape === 'own points' ? { shape, points: pairs } : { shape },
			engages: engages
				? { above: Number(above) / 100, waitMs: Number(waitMs), releaseMs: Number(releaseMs) }
				: null
		});
		const kept = await open.edit(`${name}: ${parameter.trim()} reads ${to.title}`, (now) => {
			const at = now.presets.findIndex((each) => each.box === to.box && each.name === name);
			if (at >= 0) return [{ path: ['presets', at, 'reads', now.presets[at].reads.length], value: reading }];
			const id = uniqueId(name, new Set(now.presets.map((each) => each.id)), 'preset');
			return [
				{
					path: ['presets', now.presets.length],
					value: footPresetSchema.parse({ id, box: to.box, name, reads: [reading] })
				}
			];
		});
		if (kept) [parameter, least, most] = ['', '', ''];
	}
</script>

<form class="mt-4 flex flex-wrap items-end gap-3" aria-label="Have a parameter read a pedal" onsubmit={add}>
	<div class="field">
		<label for="reading-preset">Preset</label>
		<input id="reading-preset" class="input w-36 input-sm" maxlength="60" bind:value={preset} />
	</div>
	<div class="field">
		<label for="reading-parameter">Parameter</label>
		<input id="reading-parameter" class="input w-44 input-sm" maxlength="60" bind:value={parameter} />
	</div>
	<div class="field">
		<label for="reading-from">Reads</label>
		<select id="reading-from" class="select w-52 select-sm" bind:value={from}>
			<option value="">…</option>
			{#each sources as { key, title } (key)}<option value={key}>{title}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="reading-least">At the heel</label>
		<input id="reading-least" class="input w-24 input-sm" inputmode="decimal" bind:value={least} />
	</div>
	<div class="field">
		<label for="reading-most">At the toe</label>
		<input id="reading-most" class="input w-24 input-sm" inputmode="decimal" bind:value={most} />
	</div>
	<div class="field">
		<label for="reading-unit">Unit</label>
		<input id="reading-unit" class="input w-20 input-sm" maxlength="12" bind:value={unit} />
	</div>
	<div class="field">
		<label for="reading-shape">Response</label>
		<select id="reading-shape" class="select w-36 select-sm" bind:value={shape}>
			{#each ['even', 'slow start', 'fast start', 'own points'] as each (each)}<option value={each}
					>{each}</option
				>{/each}
		</select>
	</div>
	{#if shape === 'own points'}
		<div class="field">
			<label for="reading-points">Points, as “30 10, 60 50” in %</label>
			<input id="reading-points" class="input w-52 input-sm" bind:value={points} />
		</div>
	{/if}
	<label class="flex items-center gap-2 text-sm"
		><input type="checkbox" class="checkbox checkbox-sm" bind:checked={engages} /> engages when moved</label
	>
	{#if engages}
		<div class="field">
			<label for="reading-above">above, %</label>
			<input
				id="reading-above"
				class="input w-20 input-sm"
				type="number"
				min="0"
				max="100"
				bind:value={above}
			/>
		</div>
		<div class="field">
			<label for="reading-wait">for, ms</label>
			<input
				id="reading-wait"
				class="input w-24 input-sm"
				type="number"
				min="0"
				max="10000"
				bind:value={waitMs}
			/>
		</div>
		<div class="field">
			<label for="reading-release">lets go after, ms</label>
			<input
				id="reading-release"
				class="input w-28 input-sm"
				type="number"
				min="0"
				max="60000"
				bind:value={releaseMs}
			/>
		</div>
	{/if}
	<button class="btn btn-sm" disabled={!whole || open.doing.busy}>Have it read that</button>
</form>
