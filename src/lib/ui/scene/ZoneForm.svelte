<script lang="ts">
	import { CURVES, inZone, type Change, type Zone } from '$lib/core/scene';
	import KeptField from '../KeptField.svelte';
	import KeyRangeFields from './KeyRangeFields.svelte';
	import type { KeysPlayed } from './keys-played.svelte';
	import type { OpenSet } from './open-set.svelte';
	import SoundField from './SoundField.svelte';

	/** Everything that one zone says; each field is kept when it is left. */
	let { open, played, zone, gone }: { open: OpenSet; played: KeysPlayed; zone: Zone; gone: () => void } =
		$props();
	const id = $props.id();

	const save = (says: string, change: Change<Zone>) =>
		open.edit(`${zone.name}: ${says}`, (set) => inZone(set, zone, change));
	function saveStruck(end: 0 | 1, text: string) {
		const value = Math.min(127, Math.max(1, Number(text)));
		return save('velocities', ({ struck: [low, high] }) => ({
			struck: end === 0 ? [value, Math.max(value, high)] : [Math.min(value, low), value]
		}));
	}
	const whole = (text: string, least: number, most: number) =>
		Math.min(most, Math.max(least, Math.round(Number(text))));
	const NUMBERS = [
		['octaves', 'Octaves', -8, 8],
		['semitones', 'Semitones', -11, 11],
		['floor', 'Floor', 1, 127],
		['ceiling', 'Ceiling', 1, 127],
		['fadeIn', 'Fades in over', 0, 126],
		['fadeOut', 'Fades out over', 0, 126],
		['strength', 'Strength, %', 0, 200]
	] as const;
	const CURVE_WORDS = { even: 'as struck', soft: 'easier', hard: 'harder', full: 'always full' } as const;

	const addPlace = () => {
		const used = new Set(zone.to.map(({ instrument }) => instrument));
		const next =
			open.set.setup.instruments.find((each) => !used.has(each.id)) ?? open.set.setup.instruments[0];
		return (
			next &&
			save('one instrument more', ({ to }) => ({
				to: [...to, { instrument: next.id, channel: open.told.channels[next.id] ?? 1 }]
			}))
		);
	};
	const setPlace = (at: number, place: Partial<Zone['to'][number]>) =>
		save('instrument', ({ to }) => ({ to: to.map((each, i) => (i === at ? { ...each, ...place } : each)) }));
	const remove = async () => {
		await open.edit(`${zone.name} is no zone any more`, (set) => [
			{ path: ['setup', 'zones'], value: set.setup.zones.filter((each) => each.id !== zone.id) }
		]);
		gone();
	};
</script>

<section aria-label={`Zone ${zone.name}`} class="zone-form">
	<div class="flex flex-wrap items-end gap-3">
		<KeptField
			label="Zone"
			class="input w-40 input-sm"
			maxlength={60}
			value={zone.name}
			save={(text) => text.trim() && save('name', { name: text.trim() })}
		/>
		<label class="flex items-center gap-2 pb-1.5"
			><input
				type="checkbox"
				class="toggle toggle-sm"
				checked={zone.on}
				onchange={(event) =>
					void save(event.currentTarget.checked ? 'on' : 'off', { on: event.currentTarget.checked })}
			/> On</label
		>
		<KeyRangeFields keys={zone.keys} save={(moved) => save('keys', (now) => ({ keys: moved(now.keys) }))} />
		{#each [0, 1] as const as end (end)}
			<KeptField
				label={end === 0 ? 'Struck from' : 'Struck to'}
				class="input w-18 input-sm"
				type="number"
				min="1"
				max="127"
				value={String(zone.struck[end])}
				save={(text) => saveStruck(end, text)}
			/>
		{/each}
		{#each NUMBERS.slice(0, 2) as [key, title, least, most] (key)}{@render number(
				key,
				title,
				least,
				most
			)}{/each}
	</div>

	{#each zone.to as place, at (at)}
		<div class="mt-3 border-t border-line pt-2">
			<div class="flex flex-wrap items-end gap-3">
				<div class="field">
					<label for={`${id}-to-${at}`}>Plays</label>
					<select
						id={`${id}-to-${at}`}
						class="select w-44 select-sm"
						value={place.instrument}
						onchange={({ currentTarget: { value } }) =>
							void setPlace(at, { instrument: value, channel: open.told.channels[value] ?? place.channel })}
					>
						{#each open.set.setup.instruments as each (each.id)}<option value={each.id}>{each.name}</option
							>{/each}
						{#if !open.instrument(place.instrument)}<option value={place.instrument}>(gone)</option>{/if}
					</select>
				</div>
				<div class="field">
					<label for={`${id}-channel-${at}`}>Channel</label>
					<select
						id={`${id}-channel-${at}`}
						class="select w-18 select-sm"
						value={String(place.channel)}
						onchange={({ currentTarget: { value } }) => void setPlace(at, { channel: Number(value) })}
					>
						{#each { length: 16 } as _, n (n)}<option value={String(n + 1)}>{n + 1}</option>{/each}
					</select>
				</div>
				{#key `${place.instrument} ${place.channel}`}
					<SoundField {open} {played} instrument={place.instrument} channel={place.channel} />
				{/key}
				<button
					class="btn btn-ghost btn-sm"
					onclick={() =>
						void save('one instrument less', ({ to }) => ({ to: to.filter((_, i) => i !== at) }))}
					>Take away<span class="sr-only">{` instrument ${at + 1} of ${zone.name}`}</span></button
				>
			</div>
		</div>
	{/each}
	<div class="mt-2 flex flex-wrap gap-2">
		<button
			class="btn btn-sm"
			disabled={open.set.setup.instruments.length === 0 || zone.to.length >= 8}
			onclick={addPlace}>{zone.to.length === 0 ? 'Choose an instrument' : 'One instrument more'}</button
		>
		<button class="btn btn-ghost btn-sm" onclick={remove}>Remove the zone</button>
	</div>

	<details class="mt-3">
		<summary class="cursor-pointer">How hard it sounds, pedals and wheels</summary>
		<div class="mt-2 flex flex-wrap items-end gap-3">
			{#each NUMBERS.slice(2) as [key, title, least, most] (key)}{@render number(
					key,
					title,
					least,
					most
				)}{/each}
			<div class="field">
				<label for={`${id}-curve`}>Velocity</label>
				<select
					id={`${id}-curve`}
					class="select w-36 select-sm"
					value={zone.curve}
					onchange={(event) => void save('curve', { curve: event.currentTarget.value as Zone['curve'] })}
				>
					{#each CURVES as curve (curve)}<option value={curve}>{CURVE_WORDS[curve]}</option>{/each}
				</select>
			</div>
			<div class="field">
				<label for={`${id}-expression`}>Expression pedal</label>
				<select
					id={`${id}-expression`}
					class="select w-36 select-sm"
					value={zone.expression}
					onchange={(event) =>
						void save('expression pedal', { expression: event.currentTarget.value as Zone['expression'] })}
				>
					<option value="nothing">does nothing</option>
					<option value="volume">does volume</option>
					<option value="velocity">does velocity</option>
				</select>
			</div>
			{#each [['pedals', 'Pedals go through'], ['wheels', 'Wheels go through']] as const as [key, title] (key)}
				<label class="flex items-center gap-2 pb-1.5"
					><input
						type="checkbox"
						class="checkbox checkbox-sm"
						checked={zone.through[key]}
						onchange={(event) => {
							const goes = event.currentTarget.checked;
							void save(title, ({ through }) => ({ through: { ...through, [key]: goes } }));
						}}
					/>
					{title}</label
				>
			{/each}
			<KeptField
				label="Dropped by controller"
				class="input w-24 input-sm"
				type="number"
				min="0"
				max="119"
				placeholder="none"
				value={zone.leaves?.controller.toString() ?? ''}
				save={(text) =>
					save('the pedal that drops it', ({ leaves }) => ({
						leaves:
							text.trim() === ''
								? null
								: { ...(leaves ?? { when: 'down', notes: 'end' }), controller: whole(text, 0, 119) }
					}))}
			/>
			{#if zone.leaves}
				{@const leaves = zone.leaves}
				<div class="field">
					<label for={`${id}-when`}>while it is</label>
					<select
						id={`${id}-when`}
						class="select w-24 select-sm"
						value={leaves.when}
						onchange={({ currentTarget: { value } }) =>
							void save('the pedal that drops it', ({ leaves: now }) => ({
								leaves: now && { ...now, when: value as 'down' | 'up' }
							}))}
					>
						<option value="down">down</option><option value="up">up</option>
					</select>
				</div>
				<div class="field">
					<label for={`${id}-notes`}>its held notes</label>
					<select
						id={`${id}-notes`}
						class="select w-36 select-sm"
						value={leaves.notes}
						onchange={({ currentTarget: { value } }) =>
							void save('the pedal that drops it', ({ leaves: now }) => ({
								leaves: now && { ...now, notes: value as 'end' | 'ring' }
							}))}
					>
						<option value="end">end</option><option value="ring">ring until let go</option>
					</select>
				</div>
			{/if}
		</div>
	</details>
</section>

{#snippet number(key: (typeof NUMBERS)[number][0], title: string, least: number, most: number)}
	<KeptField
		label={title}
		class="input w-20 input-sm"
		type="number"
		min={least}
		max={most}
		value={String(zone[key])}
		save={(text) => save(title.toLowerCase(), { [key]: whole(text, least, most) })}
	/>
{/snippet}

<style>
	.zone-form {
		border: 1px solid var(--color-line);
		border-left: 3px solid var(--color-primary);
		background: var(--color-sheet);
		padding: 0.75rem;
	}
</style>
