<script lang="ts">
	import { boxSchema } from '$lib/core/pedal';
	import { uniqueId } from '$lib/core/unique-id';
	import type { OpenFloor } from './open-floor.svelte';

	/** One more box: a device of Gear, or by its name alone. */
	let { open, devices }: { open: OpenFloor; devices: { id: string; name: string }[] } = $props();
	let [name, slots] = $state(['', '0']);
	const device = $derived(devices.find((each) => each.name.toLowerCase() === name.trim().toLowerCase()));

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const title = name.trim();
		if (!title) return;
		const [of, many] = [device?.id ?? null, Number(slots)];
		name = '';
		const kept = await open.edit(`${title} is on the floor`, (now) => [
			{
				path: ['boxes', now.boxes.length],
				value: boxSchema.parse({
					id: uniqueId(title, new Set(now.boxes.map(({ id }) => id)), 'box'),
					name: title,
					device: of,
					slots: many
				})
			}
		]);
		if (kept) slots = '0';
		else name ||= title;
	}
</script>

<form class="mt-3 flex flex-wrap items-end gap-3" aria-label="Add a box" onsubmit={add}>
	<div class="field">
		<label for="box-name">Box</label>
		<input id="box-name" class="input w-52 input-sm" maxlength="60" list="box-devices" bind:value={name} />
		<datalist id="box-devices"
			>{#each devices as each (each.id)}<option value={each.name}></option>{/each}</datalist
		>
	</div>
	<div class="field">
		<label for="box-slots">Control slots</label>
		<input id="box-slots" class="input w-24 input-sm" type="number" min="0" max="64" bind:value={slots} />
	</div>
	<button class="btn btn-sm" disabled={!name.trim()}>Add the box</button>
</form>
