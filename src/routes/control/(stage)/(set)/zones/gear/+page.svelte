<script lang="ts">
	import InstrumentRow from '$lib/ui/scene/InstrumentRow.svelte';
	import { openSet } from '$lib/ui/scene/open-set.svelte';
	import PlayerRow from '$lib/ui/scene/PlayerRow.svelte';
	import { instrumentSchema, playerSchema } from '$lib/core/scene';
	import { uniqueId } from '$lib/core/unique-id';

	const open = openSet();
	const setup = $derived(open.set.setup);
	const found = $derived(open.told.found);
	let typed = $state({ players: '', instruments: '' });

	const take = (key: 'players' | 'instruments', id: string) =>
		open.edit(`${found[key].find((each) => each.id === id)!.name} is in the set`, (set) => [
			{ path: ['setup', key, set.setup[key].length], value: found[key].find((each) => each.id === id) }
		]);
	async function add(event: SubmitEvent, key: 'players' | 'instruments') {
		event.preventDefault();
		const name = typed[key].trim();
		if (!name) return;
		typed[key] = '';
		const kept = await open.edit(`${name} is in the set`, (set) => {
			const taken = new Set([...set.setup.players, ...set.setup.instruments].map(({ id }) => id));
			const id = uniqueId(name, taken, 'part');
			return [
				{
					path: ['setup', key, set.setup[key].length],
					value: (key === 'players' ? playerSchema : instrumentSchema).parse({ id, name })
				}
			];
		});
		if (!kept) typed[key] ||= name;
	}
	const GROUPS = [
		{
			key: 'players',
			title: 'Who plays',
			says: 'Keyboards, and wind or string controllers: their keys, the channel that they send on, and a sound of their own.',
			word: 'player'
		},
		{
			key: 'instruments',
			title: 'What sounds',
			says: 'Modules, and the sounds inside keyboards. What nobody knows is left open; what is left open is not judged.',
			word: 'instrument'
		}
	] as const;
</script>

<svelte:head><title>Players and instruments · Silent Drawer</title></svelte:head>

{#each GROUPS as { key, title, says, word } (key)}
	<section aria-labelledby={`${key}-title`} class="mb-6">
		<h2 id={`${key}-title`}>{title}</h2>
		<p class="small-print">{says}</p>
		<ul class="mt-2 flex flex-col gap-3">
			{#if key === 'players'}
				{#each setup.players as player (player.id)}<PlayerRow {open} {player} />{/each}
			{:else}
				{#each setup.instruments as instrument (instrument.id)}<InstrumentRow {open} {instrument} />{/each}
			{/if}
		</ul>
		{#if found[key].length > 0}
			<div class="mt-2 flex flex-wrap gap-2">
				{#each found[key] as each (each.id)}
					<button class="btn btn-sm" onclick={() => void take(key, each.id)}
						>Take {each.name}<span class="sr-only">{` as ${word}`}</span></button
					>
				{/each}
			</div>
		{/if}
		<form
			class="mt-2 flex flex-wrap items-end gap-2"
			aria-label={`Add a ${word}`}
			onsubmit={(event) => add(event, key)}
		>
			<div class="field">
				<label for={`add-${key}`}>{`Another ${word}`}</label>
				<input id={`add-${key}`} class="input w-52 input-sm" maxlength="60" bind:value={typed[key]} />
			</div>
			<button class="btn btn-sm" disabled={!typed[key].trim()}
				>Add<span class="sr-only">{` the ${word}`}</span></button
			>
		</form>
	</section>
{/each}
