<script lang="ts">
	import { PEDAL_KINDS, pedalOf } from '$lib/core/pedal';
	import { uniqueId } from '$lib/core/unique-id';
	import type { OpenFloor } from './open-floor.svelte';

	/** One more pedal of a usual kind; its resistance where the label says it. */
	let { open }: { open: OpenFloor } = $props();
	let [name, kind, kohm] = $state(['', PEDAL_KINDS[0].id, '']);
	const chosen = $derived(PEDAL_KINDS.find(({ id }) => id === kind)!);
	const hasPot = $derived(chosen.pedal.parts.some(({ is }) => is === 'pot'));

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const title = name.trim();
		if (!title) return;
		const [of, resistance] = [chosen, Number(kohm)];
		name = '';
		const kept = await open.edit(`${title} is on the floor`, (now) => {
			const pedal = pedalOf(of, uniqueId(title, new Set(now.pedals.map(({ id }) => id)), 'pedal'), title);
			return [
				{
					path: ['pedals', now.pedals.length],
					value: {
						...pedal,
						parts: pedal.parts.map((part) =>
							part.is === 'pot' && resistance > 0 ? { ...part, kohm: resistance } : part
						)
					}
				}
			];
		});
		if (kept) kohm = '';
		else name ||= title;
	}
</script>

<form class="mt-3 flex flex-wrap items-end gap-3" aria-label="Add a pedal" onsubmit={add}>
	<div class="field">
		<label for="pedal-name">Name</label>
		<input id="pedal-name" class="input w-52 input-sm" maxlength="60" bind:value={name} />
	</div>
	<div class="field">
		<label for="pedal-kind">Kind</label>
		<select id="pedal-kind" class="select w-96 max-w-full select-sm" bind:value={kind}>
			{#each PEDAL_KINDS as { id, title } (id)}<option value={id}>{title}</option>{/each}
		</select>
	</div>
	{#if hasPot}
		<div class="field">
			<label for="pedal-kohm">kΩ, if the label says</label>
			<input
				id="pedal-kohm"
				class="input w-24 input-sm"
				type="number"
				min="0.1"
				step="any"
				bind:value={kohm}
			/>
		</div>
	{/if}
	<button class="btn btn-sm" disabled={!name.trim()}>Add the pedal</button>
</form>
