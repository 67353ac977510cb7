<script lang="ts">
	import { dndzone, type DndEvent } from 'svelte-dnd-action';
	import { movedInList, songId, songSchema, type Song } from '$lib/core/scene';
	import { openSet } from '$lib/ui/scene/open-set.svelte';
	import ReadyList from '$lib/ui/scene/ReadyList.svelte';
	import SongRow from '$lib/ui/scene/SongRow.svelte';
	import StepButtons from '$lib/ui/StepButtons.svelte';

	const open = openSet();
	let name = $state('');
	const set = $derived(open.set);
	const unused = $derived(
		set.scenes.filter(({ number }) => !set.songs.some(({ scenes }) => scenes.includes(number)))
	);

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const title = name.trim();
		if (!title) return;
		name = '';
		const kept = await open.edit(`${title} is in the set`, (now) => [
			{
				path: ['songs', now.songs.length],
				value: songSchema.parse({
					id: songId(title, now.songs),
					name: title
				})
			}
		]);
		if (!kept) name ||= title;
	}
	/** While one is dragged: where the songs would lie. */
	let dragged = $state.raw<Song[] | null>(null);
	/** A song is held by its handle. */
	let grabbed = $state(false);
	async function drop({ detail }: CustomEvent<DndEvent<Song>>) {
		dragged = detail.items;
		grabbed = false;
		const { id } = detail.info;
		const to = detail.items.findIndex((each) => each.id === id);
		if (to !== set.songs.findIndex((each) => each.id === id))
			await open.edit(`${detail.items[to].name} to place ${to + 1}`, ({ songs }) => {
				const from = songs.findIndex((each) => each.id === id);
				return from < 0 ? [] : [{ path: ['songs'], value: movedInList(songs, from, to) }];
			});
		dragged = null;
	}
	const songEach = () =>
		open.edit('A song for each scene', (now) => {
			const songs = [...now.songs];
			for (const { number, name: title } of unused)
				songs.push(songSchema.parse({ id: songId(title, songs), name: title, scenes: [number] }));
			return [{ path: ['songs'], value: songs }];
		});
</script>

<svelte:window onpointerup={() => (grabbed = dragged !== null)} />
<svelte:head><title>Set · Silent Drawer</title></svelte:head>

<div class="mb-4 flex flex-wrap items-center justify-between gap-3">
	{#if open.told.readiness.steps.length > 0}
		<div class="flex flex-wrap gap-2">
			<a class="btn btn-primary btn-sm" href="/control/set/run">Run the set</a>
			<a class="btn btn-sm" href="/control/set/sheet">Set sheet</a>
		</div>
	{:else}<p>Songs in their order, each with its scenes.</p>{/if}
	<StepButtons
		of="the set"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
</div>
<div class="beside">
	<section aria-labelledby="songs-title" class="min-w-0">
		<h2 id="songs-title">Songs</h2>
		<ol
			use:dndzone={{
				items: dragged ?? set.songs,
				type: 'songs',
				flipDurationMs: 120,
				dragDisabled: !grabbed,
				autoAriaDisabled: true,
				dropTargetStyle: {},
				zoneItemTabIndex: -1
			}}
			onconsider={({ detail }: CustomEvent<DndEvent<Song>>) => (dragged = detail.items)}
			onfinalize={drop}
		>
			{#each dragged ?? set.songs as song, at (song.id)}
				<li class="border-b border-line py-3">
					<SongRow
						{open}
						{song}
						{at}
						grab={() => (grabbed = true)}
						steps={open.told.readiness.steps.filter((step) => step.song === song.id)}
					/>
				</li>
			{/each}
		</ol>
		<form class="mt-3 flex flex-wrap items-end gap-2" aria-label="Add a song" onsubmit={add}>
			<div class="field">
				<label for="song-name">Another song</label>
				<input id="song-name" class="input w-52 input-sm" maxlength="60" bind:value={name} />
			</div>
			<button class="btn btn-sm" disabled={!name.trim()}>Add the song</button>
			{#if unused.length > 0}
				<button type="button" class="btn btn-sm" onclick={songEach}
					>{`A song for ${unused.length === 1 ? unused[0].name : `each of ${unused.length} scenes`}`}</button
				>
			{/if}
		</form>
	</section>
	<ReadyList {open} />
</div>
