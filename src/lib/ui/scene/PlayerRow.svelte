<script lang="ts">
	import { inPlayer, type Change, type Player } from '$lib/core/scene';
	import KeptField from '../KeptField.svelte';
	import KeyRangeFields from './KeyRangeFields.svelte';
	import type { OpenSet } from './open-set.svelte';

	/** What is noted of somebody who plays. */
	let { open, player }: { open: OpenSet; player: Player } = $props();
	const id = $props.id();

	const save = (says: string, change: Change<Player>) =>
		open.edit(`${player.name}: ${says}`, (set) => inPlayer(set, player, change));
	const remove = () =>
		open.edit(`${player.name} plays no more`, (set) => [
			{ path: ['setup', 'players'], value: set.setup.players.filter((each) => each.id !== player.id) },
			{ path: ['setup', 'zones'], value: set.setup.zones.filter((zone) => zone.player !== player.id) }
		]);
</script>

<li class="flex flex-wrap items-end gap-3 border-l-2 border-line pl-3">
	<KeptField
		label="Player"
		class="input w-40 input-sm"
		maxlength={60}
		value={player.name}
		save={(text) => text.trim() && save('name', { name: text.trim() })}
	/>
	<KeyRangeFields keys={player.keys} save={(moved) => save('keys', (now) => ({ keys: moved(now.keys) }))} />
	<div class="field">
		<label for={`${id}-sends`}>Sends on</label>
		<select
			id={`${id}-sends`}
			class="select w-28 select-sm"
			value={player.sends?.toString() ?? ''}
			onchange={({ currentTarget: { value } }) =>
				void save('channel', { sends: value === '' ? null : Number(value) })}
		>
			<option value="">any other</option>
			{#each { length: 16 } as _, n (n)}<option value={String(n + 1)}>channel {n + 1}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for={`${id}-own`}>Own sound</label>
		<select
			id={`${id}-own`}
			class="select w-40 select-sm"
			value={player.own ?? ''}
			onchange={({ currentTarget: { value } }) => void save('own sound', { own: value || null })}
		>
			<option value="">none</option>
			{#each open.set.setup.instruments as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
		</select>
	</div>
	<label class="flex items-center gap-2 pb-1.5"
		><input
			type="checkbox"
			class="checkbox checkbox-sm"
			checked={player.touch}
			onchange={(event) => void save('touch', { touch: event.currentTarget.checked })}
		/> Touch is meant to be heard</label
	>
	<button class="btn btn-ghost btn-sm" onclick={remove}
		>Remove<span class="sr-only">{` ${player.name} and its zones`}</span></button
	>
</li>
