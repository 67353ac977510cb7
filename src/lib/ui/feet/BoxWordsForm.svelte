<script lang="ts">
	import { boxFromWords, wordsOfBox, type Box, type BoxWords } from '$lib/core/pedal';
	import type { OpenFloor } from './open-floor.svelte';

	/** A box’s pages, spare switches and menus, as lines; kept with one press, and taken back like any other step. */
	let { open, box }: { open: OpenFloor; box: Box } = $props();
	let typed = $state<Partial<BoxWords>>({});
	const words = $derived(wordsOfBox(box));
	const changed = $derived(Object.keys(typed).length > 0);

	async function keep(event: SubmitEvent) {
		event.preventDefault();
		const written = { ...words, ...typed };
		const kept = await open.edit(`${box.name}: pages, switches and menus`, (now) => {
			const at = now.boxes.findIndex(({ id }) => id === box.id);
			return at < 0 ? [] : [{ path: ['boxes', at], value: boxFromWords(now.boxes[at], written) }];
		});
		if (kept) typed = {};
	}
	const FIELDS: { key: keyof BoxWords; title: string; help: string; rows: number }[] = [
		{
			key: 'pages',
			title: 'Pages',
			help: 'The page’s name, then a line a button: “3: Tap tempo | Tempo to 60”, short press and long press. An empty line before the next page. “Encore = Show” shows the buttons of another page.',
			rows: 10
		},
		{ key: 'spares', title: 'Spare switches', help: 'One a line.', rows: 3 },
		{
			key: 'menus',
			title: 'Where its menus have what',
			help: 'One a line: “Slot of a pedal: Hold Pages › Slots”.',
			rows: 4
		}
	];
</script>

<details class="ml-4">
	<summary class="text-sm">Pages, spare switches and menus of {box.name}</summary>
	<form
		class="mt-1 mb-3 grid max-w-3xl gap-3"
		aria-label={`Pages, spare switches and menus of ${box.name}`}
		onsubmit={keep}
	>
		{#each FIELDS as { key, title, help, rows } (key)}
			<div class="field">
				<label for={`${key}-${box.id}`}>{title}</label>
				<textarea
					id={`${key}-${box.id}`}
					class="textarea w-full font-mono text-sm"
					{rows}
					spellcheck="false"
					aria-describedby={`${key}-help-${box.id}`}
					value={typed[key] ?? words[key]}
					oninput={(event) => (typed[key] = event.currentTarget.value)}
				></textarea>
				<span class="small-print" id={`${key}-help-${box.id}`}>{help}</span>
			</div>
		{/each}
		<div class="flex gap-2">
			<button class="btn btn-primary btn-sm" disabled={!changed}
				>Keep it<span class="sr-only">{` for ${box.name}`}</span></button
			>
			{#if changed}<button type="button" class="btn btn-sm" onclick={() => (typed = {})}
					>As it was<span class="sr-only">{` for ${box.name}`}</span></button
				>{/if}
		</div>
	</form>
</details>
