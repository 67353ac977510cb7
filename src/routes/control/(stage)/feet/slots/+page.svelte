<script lang="ts">
	import { costOfChange, lineName, readBySlot, slotTroubles, slotUses, type Reading } from '$lib/core/pedal';
	import { openFloor } from '$lib/ui/feet/open-floor.svelte';
	import ReadingForm from '$lib/ui/feet/ReadingForm.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import { count } from '$lib/ui/words';

	const open = openFloor();
	const floor = $derived(open.floor);
	const uses = $derived(slotUses(floor));
	const troubles = $derived(slotTroubles(floor));
	const boxes = $derived(new Map(floor.boxes.map((box) => [box.id, box])));
	const nameOf = (id: string) => {
		const line = floor.lines.find((each) => each.id === id);
		return line ? lineName(floor, line) : 'a line that is gone';
	};
	const number = (value: number) => String(value).replace('-', '−');
	const range = ({ least, most, unit }: Reading) => `${number(least)} to ${number(most)} ${unit}`.trim();
	const fromWords = (box: string, { from }: Reading) =>
		'slot' in from
			? `slot ${from.slot}`
			: (boxes.get(box)?.jacks.find(({ id }) => id === from.jack)?.name ?? 'a jack that is gone');
	const pots = $derived(
		floor.lines.filter(({ pedals }) =>
			pedals.some((id) =>
				floor.pedals.find((pedal) => pedal.id === id)?.parts.some((part) => part.is === 'pot')
			)
		)
	);

	let [feedLine, feedSlot] = $state(['', '']);
	const free = $derived(
		floor.boxes.flatMap((box) =>
			Array.from({ length: box.slots }, (_, i) => ({
				key: `${i + 1} ${box.id}`,
				box: box.id,
				slot: i + 1,
				title: `${box.name}, slot ${i + 1}`
			}))
		)
	);
	function feed(event: SubmitEvent) {
		event.preventDefault();
		const to = free.find(({ key }) => key === feedSlot);
		if (!to || !feedLine) return;
		const line = feedLine;
		void open.edit(`${nameOf(line)} feeds ${to.title}`, (now) =>
			now.feeds.some((each) => each.line === line && each.box === to.box && each.slot === to.slot)
				? []
				: [{ path: ['feeds', now.feeds.length], value: { box: to.box, slot: to.slot, line } }]
		);
	}
	const unfeed = (box: string, slot: number, line: string) =>
		open.edit(`${nameOf(line)} feeds slot ${slot} no more`, (now) => [
			{
				path: ['feeds'],
				value: now.feeds.filter((each) => each.box !== box || each.slot !== slot || each.line !== line)
			}
		]);
	const allOnSlots = (line: string) =>
		open.edit(`${nameOf(line)}: all presets read a slot`, (now) => readBySlot(now, line));
	const removeReading = (preset: number, reading: number, says: string) =>
		open.edit(says, () => [{ path: ['presets', preset, 'reads', reading] }]);
</script>

<svelte:head><title>Slots and presets · Silent Drawer</title></svelte:head>

{#if floor.boxes.every(({ slots }) => slots === 0)}
	<p class="max-w-prose">
		No box here has numbered control slots. Say under “What there is” how many a box has: a pedal then feeds a
		slot, many presets read it, and a change of pedal touches one setting.
	</p>
{/if}
{#if troubles.length > 0}
	<ul class="mb-4 flex flex-col gap-1">
		{#each troubles as { at, says } (`${at} ${says}`)}
			<li class="flex items-start gap-2">
				<span class="mt-1"><StateMark state="attention" /></span>{says}
			</li>
		{/each}
	</ul>
{/if}

<h2>Who feeds, and who reads</h2>
{#if uses.length === 0}<p class="mt-1">No slot is fed or read yet.</p>{:else}
	<div class="mt-2 overflow-x-auto">
		<table class="ledger-table">
			<thead><tr><th scope="col">Slot</th><th scope="col">Fed by</th><th scope="col">Read by</th></tr></thead>
			<tbody>
				{#each uses as { box, slot, feeds, readers } (`${box} ${slot}`)}
					<tr>
						<th scope="row" class="align-top">{boxes.get(box)?.name} · {slot}</th>
						<td class="align-top">
							{#each feeds as line (line)}
								<div class="flex items-center gap-2">
									{nameOf(line)}
									<button
										class="btn btn-ghost btn-xs"
										disabled={open.doing.busy}
										onclick={() => unfeed(box, slot, line)}
										>No more<span class="sr-only"> {nameOf(line)}, slot {slot}</span></button
									>
								</div>
							{:else}nobody{/each}
						</td>
						<td class="align-top">
							{#each readers as { preset, reading }, i (i)}
								<div>{preset.name}: {reading.parameter}, {range(reading)}</div>
							{:else}nothing{/each}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
{#if pots.length > 0 && free.length > 0}
	<form class="mt-3 flex flex-wrap items-end gap-3" aria-label="Feed a slot" onsubmit={feed}>
		<div class="field">
			<label for="feed-line">Pedal</label>
			<select id="feed-line" class="select w-64 select-sm" bind:value={feedLine}>
				<option value="">…</option>
				{#each pots as line (line.id)}<option value={line.id}>{nameOf(line.id)}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="feed-slot">feeds</label>
			<select id="feed-slot" class="select w-44 select-sm" bind:value={feedSlot}>
				<option value="">…</option>
				{#each free as { key, title } (key)}<option value={key}>{title}</option>{/each}
			</select>
		</div>
		<button class="btn btn-sm" disabled={!feedLine || !feedSlot || open.doing.busy}>Feed it</button>
	</form>
{/if}

{#if pots.length > 0}
	<h2 class="mt-6">What changing a pedal costs</h2>
	<ul class="mt-1 flex flex-col gap-1">
		{#each pots as line (line.id)}
			{@const cost = costOfChange(floor, line.id)}
			<li class="flex flex-wrap items-center gap-2">
				<span
					>{nameOf(line.id)}: {cost.parameters + cost.slots === 0
						? 'nothing reads it.'
						: `${[
								cost.slots > 0 ? count(cost.slots, 'slot') : '',
								cost.parameters > 0
									? `${count(cost.parameters, 'parameter')} of ${count(cost.presets.length, 'preset')}`
									: ''
							]
								.filter(Boolean)
								.join(
									' and '
								)} to set anew. With all on slots it would be ${cost.allOnSlots}, with none ${cost.noneOnSlots}.`}</span
				>
				{#if cost.parameters > 0 && (boxes.get(line.jacks[0].box)?.slots ?? 0) > 0}
					<button class="btn btn-xs" disabled={open.doing.busy} onclick={() => allOnSlots(line.id)}
						>Have them read a slot<span class="sr-only"> {nameOf(line.id)}</span></button
					>
				{/if}
			</li>
		{/each}
	</ul>
{/if}

<h2 class="mt-6">Presets</h2>
{#if floor.presets.length === 0}<p class="mt-1">No preset is noted yet.</p>{:else}
	<div class="mt-2 overflow-x-auto">
		<table class="ledger-table">
			<thead
				><tr
					><th scope="col">Preset</th><th scope="col">Parameter</th><th scope="col">Reads</th><th
						scope="col"
						class="text-right">From heel to toe</th
					><th scope="col">Response</th><th scope="col">Engages</th><th
						><span class="sr-only">What can be done</span></th
					></tr
				></thead
			>
			<tbody>
				{#each floor.presets as preset, p (preset.id)}
					{#each preset.reads as reading, r (r)}
						<tr>
							<th scope="row">{preset.name}</th>
							<td>{reading.parameter}</td>
							<td>{fromWords(preset.box, reading)}</td>
							<td class="text-right tabular-nums">{range(reading)}</td>
							<td>{reading.response.shape}</td>
							<td
								>{reading.engages
									? `above ${Math.round(reading.engages.above * 100)} % for ${reading.engages.waitMs} ms; lets go after ${reading.engages.releaseMs} ms`
									: 'always on'}</td
							>
							<td class="text-right"
								><button
									class="btn btn-ghost btn-xs"
									disabled={open.doing.busy}
									onclick={() => removeReading(p, r, `${preset.name}: ${reading.parameter} reads nothing`)}
									>Take away<span class="sr-only"> {preset.name}, {reading.parameter}</span></button
								></td
							>
						</tr>
					{/each}
				{/each}
			</tbody>
		</table>
	</div>
{/if}
<ReadingForm {open} />
