<script lang="ts">
	import { ArrowDown, ArrowUp, GripVertical } from '@lucide/svelte';
	import {
		handsBefore,
		inSong,
		movedInList,
		sceneNumbered,
		sceneNumbers,
		type SetStep,
		type Song
	} from '$lib/core/scene';
	import KeptField from '../KeptField.svelte';
	import type { OpenSet } from './open-set.svelte';

	interface Props {
		open: OpenSet;
		song: Song;
		at: number;
		steps: readonly SetStep[];
		/** A pointer takes hold of it. */
		grab: () => void;
	}
	/** A song of the set: its scenes with what each change takes, the pause before it, and what hands do. */
	let { open, song, at, steps, grab }: Props = $props();
	const id = $props.id();
	let fault = $state('');
	const sceneName = (number: number) => sceneNumbered(open.set, number)?.name ?? 'not stored';

	const save = (says: string, change: Partial<Song>) =>
		open.edit(`${song.name}: ${says}`, (set) => inSong(set, song, change));
	function saveScenes(text: string) {
		const scenes = sceneNumbers(text);
		fault = scenes ? '' : `Scenes are their numbers, with commas between: 3, 4.`;
		return scenes && save('scenes', { scenes });
	}
	const move = (by: number) =>
		open.edit(`${song.name} ${by < 0 ? 'earlier' : 'later'}`, (set) => {
			const now = set.songs.findIndex((each) => each.id === song.id);
			const to = now + by;
			return now < 0 || to < 0 || to >= set.songs.length
				? []
				: [{ path: ['songs'], value: movedInList(set.songs, now, to) }];
		});
	const lines = (text: string) =>
		text
			.split('\n')
			.map((line) => line.trim())
			.filter(Boolean);
</script>

<div class="flex flex-wrap items-end gap-3">
	<!-- For a pointer; the arrows beside it do the same. -->
	<span class="song-handle pb-1.5" role="presentation" title={`Drag ${song.name}`} onpointerdown={grab}>
		<GripVertical size={15} /><span class="plate figures w-6 text-right">{at + 1}</span>
	</span>
	<KeptField
		label="Song"
		class="input w-48 input-sm"
		maxlength={60}
		value={song.name}
		save={(text) => text.trim() && save('name', { name: text.trim() })}
	/>
	<KeptField
		label="Scenes, by number"
		class="input w-32 input-sm"
		value={song.scenes.join(', ')}
		save={saveScenes}
	/>
	<KeptField
		label="Pause before, s"
		class="input w-24 input-sm"
		type="number"
		min="0"
		max="3600"
		placeholder="not said"
		value={song.pauseSeconds?.toString() ?? ''}
		save={(text) => save('pause', { pauseSeconds: text.trim() === '' ? null : Number(text) })}
	/>
	<div class="flex gap-1 pb-0.5">
		<button
			class="btn btn-square btn-ghost btn-sm"
			aria-label={`${song.name} earlier`}
			onclick={() => void move(-1)}><ArrowUp size={15} /></button
		>
		<button
			class="btn btn-square btn-ghost btn-sm"
			aria-label={`${song.name} later`}
			onclick={() => void move(1)}><ArrowDown size={15} /></button
		>
		<button
			class="btn btn-ghost btn-sm"
			onclick={() =>
				void open.edit(`${song.name} is out of the set`, (set) => [
					{ path: ['songs'], value: set.songs.filter((each) => each.id !== song.id) }
				])}>Remove<span class="sr-only">{` ${song.name}`}</span></button
		>
	</div>
</div>
{#if fault}<p role="alert" class="text-rust">{fault}</p>{/if}
<ol class="mt-1 ml-9 text-sm">
	{#each steps as step, i (i)}
		{@const hands = handsBefore(step)}
		<li class="figures">
			{step.scene}
			{sceneName(step.scene)}: {step.says}{hands.length > 0 ? `; by hand: ${hands.join(' ')}` : ''}
		</li>
	{/each}
</ol>
<details class="mt-1 ml-9">
	<summary class="small-print cursor-pointer">Hands, notes and tempo of {song.name}</summary>
	<div class="mt-1 flex flex-wrap items-start gap-3">
		<KeptField
			label="Tempo"
			class="input w-20 input-sm"
			type="number"
			min="20"
			max="400"
			placeholder="not said"
			value={song.tempo?.toString() ?? ''}
			save={(text) => save('tempo', { tempo: text.trim() === '' ? null : Number(text) })}
		/>
		<div class="field">
			<label for={`${id}-hands`}>What a hand does before it, a line each</label>
			<textarea
				id={`${id}-hands`}
				class="textarea w-72 textarea-sm"
				rows="3"
				value={song.hands.join('\n')}
				onchange={(event) => void save('hands', { hands: lines(event.currentTarget.value) })}
			></textarea>
		</div>
		<div class="field">
			<label for={`${id}-notes`}>Notes</label>
			<textarea
				id={`${id}-notes`}
				class="textarea w-72 textarea-sm"
				rows="3"
				maxlength="4000"
				value={song.notes}
				onchange={(event) => void save('notes', { notes: event.currentTarget.value })}
			></textarea>
		</div>
	</div>
</details>

<style>
	.song-handle {
		display: flex;
		align-items: center;
		gap: 0.15rem;
		color: var(--color-slate);
		touch-action: none;
		cursor: grab;
	}
</style>
