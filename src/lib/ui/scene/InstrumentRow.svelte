<script lang="ts">
	import { inInstrument, type Change, MOST_NAMES, soundsListed, type Instrument } from '$lib/core/scene';
	import { readNameDocument } from '$lib/core/drawer';
	import { Doing } from '../doing.svelte';
	import FilePick from '../FilePick.svelte';
	import { count } from '../words';
	import KeptField from '../KeptField.svelte';
	import KeyRangeFields from './KeyRangeFields.svelte';
	import ShowSlots from './ShowSlots.svelte';
	import type { OpenSet } from './open-set.svelte';

	/** What is noted of something that sounds. */
	let { open, instrument }: { open: OpenSet; instrument: Instrument } = $props();
	const id = $props.id();

	const save = (says: string, change: Change<Instrument>) =>
		open.edit(`${instrument.name}: ${says}`, (set) => inInstrument(set, instrument, change));
	const NUMBERS = [
		['voices', 'Voices', 1, 512],
		['parts', 'Parts', 1, 16],
		['loadMs', 'Loads in, ms', 0, 60_000]
	] as const;
	const numberOf = (text: string) => (text.trim() === '' ? null : Number(text));
	const TICKS = [
		['fixed', 'Its sounds cannot be changed'],
		['away', 'It is away or off'],
		['dropsOut', 'Drops out while it is spoken to']
	] as const;
	const reading = new Doing();
	const takeNames = (file: File) =>
		reading.run(async () => {
			const { sounds, left } = soundsListed(readNameDocument(await file.text()));
			const all = sounds.slice(0, MOST_NAMES);
			const out = left + sounds.length - all.length;
			const says = `${count(all.length, 'name')} of ${file.name}${out > 0 ? `; ${out} more without a program, or beyond ${MOST_NAMES}` : ''}.`;
			took = (await save(`names of ${file.name}`, { names: all })) ? says : '';
		});
	let took = $state('');
	const remove = () =>
		open.edit(`${instrument.name} is not in the set any more`, (set) => [
			{
				path: ['setup', 'instruments'],
				value: set.setup.instruments.filter((each) => each.id !== instrument.id)
			}
		]);
	const device = $derived(open.lines.devices.find((each) => each.id === instrument.device)?.name);
	const line = $derived(open.lines.lines[instrument.id]?.way?.out?.name);
</script>

<li class="border-l-2 border-line pl-3">
	<div class="flex flex-wrap items-end gap-3">
		<KeptField
			label="Instrument"
			class="input w-40 input-sm"
			maxlength={60}
			value={instrument.name}
			save={(text) => text.trim() && save('name', { name: text.trim() })}
		/>
		<KeyRangeFields
			keys={instrument.keys}
			titles={['Lowest note', 'Highest note']}
			save={(moved) => save('range', (now) => ({ keys: moved(now.keys) }))}
		/>
		{#each NUMBERS as [key, title, least, most] (key)}
			<KeptField
				label={title}
				class="input w-24 input-sm"
				type="number"
				min={least}
				max={most}
				placeholder="not known"
				value={instrument[key]?.toString() ?? ''}
				save={(text) => save(title, { [key]: numberOf(text) })}
			/>
		{/each}
		<KeptField
			label="Own level"
			class="input w-20 input-sm"
			type="number"
			min="1"
			max="127"
			value={String(instrument.level)}
			save={(text) => save('own level', { level: Number(text) })}
		/>
		<div class="field">
			<label for={`${id}-banks`}>Bank select</label>
			<select
				id={`${id}-banks`}
				class="select w-36 select-sm"
				value={instrument.banks ?? ''}
				onchange={({ currentTarget: { value } }) =>
					void save('bank select', { banks: (value || null) as Instrument['banks'] })}
			>
				<option value="">not known</option>
				<option value="none">ignored</option>
				<option value="msb">first half</option>
				<option value="lsb">second half</option>
				<option value="both">both halves</option>
			</select>
		</div>
		<div class="field">
			<label for={`${id}-counts`}>First program is</label>
			<select
				id={`${id}-counts`}
				class="select w-28 select-sm"
				value={instrument.counts?.toString() ?? ''}
				onchange={({ currentTarget: { value } }) =>
					void save('counting', { counts: value === '' ? null : (Number(value) as 0 | 1) })}
			>
				<option value="">not known</option><option value="0">0</option><option value="1">1</option>
			</select>
		</div>
		<div class="field">
			<label for={`${id}-rings`}>Held notes at a new program</label>
			<select
				id={`${id}-rings`}
				class="select w-36 select-sm"
				value={instrument.rings === null ? '' : instrument.rings ? 'ring' : 'end'}
				onchange={({ currentTarget: { value } }) =>
					void save('held notes', { rings: value === '' ? null : value === 'ring' })}
			>
				<option value="">not known</option><option value="ring">ring on</option><option value="end"
					>hang or break</option
				>
			</select>
		</div>
		{#each TICKS as [key, title] (key)}
			<label class="flex items-center gap-2 pb-1.5"
				><input
					type="checkbox"
					class="checkbox checkbox-sm"
					checked={instrument[key]}
					onchange={(event) => void save(title.toLowerCase(), { [key]: event.currentTarget.checked })}
				/>
				{title}</label
			>
		{/each}
		<button class="btn btn-ghost btn-sm" onclick={remove}
			>Remove<span class="sr-only">{` ${instrument.name}`}</span></button
		>
	</div>
	<div class="mt-1 flex flex-wrap items-center gap-2">
		<FilePick
			title={instrument.names.length > 0 ? 'Other names' : 'Names from a .midnam'}
			accept=".midnam,.xml"
			picked={takeNames}
		/>
		{#if instrument.names.length > 0}
			<span class="small-print">{count(instrument.names.length, 'name')} to choose from</span>
			<button class="btn btn-ghost btn-sm" onclick={() => void save('no names', { names: [] })}
				>Without them<span class="sr-only">{`, for ${instrument.name}`}</span></button
			>
		{/if}
		<span role="status" class="small-print">{took}</span>
	</div>
	{#if reading.problem}<p role="alert" class="text-rust">
			{reading.problem.message}
			{reading.problem.remedy}
		</p>{/if}
	{#if device && !instrument.fixed}<ShowSlots {open} {instrument} />{/if}
	<p class="small-print">
		{device ? `${device} of Gear` : 'No device of Gear'}{line
			? `, reached from ${line}`
			: ', reached by no out of the computer'}.
	</p>
</li>
