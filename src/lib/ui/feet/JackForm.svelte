<script lang="ts">
	import { JACK_KINDS, jackOfKind } from '$lib/core/pedal';
	import { uniqueId } from '$lib/core/unique-id';
	import type { OpenFloor } from './open-floor.svelte';

	/** One more jack of a box: its name there, what it takes, and where the menu is that sets it. */
	let { open, boxId, boxName }: { open: OpenFloor; boxId: string; boxName: string } = $props();
	let [name, kind, menu] = $state(['', JACK_KINDS[0].id, '']);

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const title = name.trim();
		const of = JACK_KINDS.find(({ id }) => id === kind);
		if (!title || !of) return;
		const settingMenu = menu.trim();
		name = '';
		const kept = await open.edit(`${boxName} has ${title}`, (now) => {
			const b = now.boxes.findIndex(({ id }) => id === boxId);
			const { jacks } = now.boxes[b];
			const jack = jackOfKind(of, uniqueId(title, new Set(jacks.map(({ id }) => id)), 'jack'), title);
			return [
				{
					path: ['boxes', b, 'jacks', jacks.length],
					value: { ...jack, modes: jack.modes.map((mode) => ({ ...mode, settingMenu })) }
				}
			];
		});
		if (kept) menu = '';
		else name ||= title;
	}
</script>

<details class="ml-4">
	<summary class="small-print">One more jack of {boxName}</summary>
	<form class="mt-1 flex flex-wrap items-end gap-3" aria-label={`Add a jack to ${boxName}`} onsubmit={add}>
		<div class="field">
			<label for={`jack-name-${boxId}`}>As the box calls it</label>
			<input id={`jack-name-${boxId}`} class="input w-40 input-sm" maxlength="60" bind:value={name} />
		</div>
		<div class="field">
			<label for={`jack-kind-${boxId}`}>Takes</label>
			<select id={`jack-kind-${boxId}`} class="select w-72 select-sm" bind:value={kind}>
				{#each JACK_KINDS as { id, title } (id)}<option value={id}>{title}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for={`jack-menu-${boxId}`}>Where its menu is</label>
			<input id={`jack-menu-${boxId}`} class="input w-52 input-sm" maxlength="120" bind:value={menu} />
		</div>
		<button class="btn btn-sm" disabled={!name.trim()}>Add the jack</button>
	</form>
</details>
