<script lang="ts">
	import {
		inPart,
		partAt,
		soundChoices,
		soundMeant,
		soundNumbered,
		soundOnKey,
		type Change,
		type Part,
		type SlotSeen,
		type SoundChoice
	} from '$lib/core/scene';
	import KeptField from '../KeptField.svelte';
	import type { KeysPlayed } from './keys-played.svelte';
	import type { OpenSet } from './open-set.svelte';

	/** What a channel of an instrument plays: a sound by its name, with what selects it, and its volume. */
	interface Props {
		open: OpenSet;
		played: KeysPlayed;
		instrument: string;
		channel: number;
	}
	let { open, played, instrument, channel }: Props = $props();

	const part = $derived(partAt(open.set, instrument, channel));
	const of = $derived(open.instrument(instrument));
	const counts = $derived(of?.counts ?? 0);
	const id = $props.id();
	/** Halves of the bank that it heeds, or that stand there all the same. */
	const halves = $derived(
		(
			[
				['msb', 'Bank'],
				['lsb', 'Bank LSB']
			] as const
		).filter(([half]) => [null, 'both', half].includes(of?.banks ?? null) || part.sound?.[half] != null)
	);
	/** Slots as they were last seen, and of which instrument. */
	let known = $state.raw<{ of: string; slots: SlotSeen[] } | null>(null);
	const choices = $derived(known?.of === instrument ? soundChoices(known.slots, of?.names) : []);

	/** Sounds that can be chosen for the instrument as it is by now; none where the server does not say. */
	async function ask(): Promise<SoundChoice[]> {
		const at = instrument;
		let slots = known?.of === at ? known.slots : null;
		if (!slots) {
			slots = await open.slotsOf(at).catch(() => null);
			known = slots && { of: at, slots };
		}
		return slots ? soundChoices(slots, open.instrument(at)?.names) : [];
	}
	const where = $derived(`${of?.name ?? instrument}, channel ${channel}`);
	const change = (says: string, what: Change<Part>) =>
		open.edit(`${where}: ${says}`, (set) => inPart(set, instrument, channel, what));
	const numberOf = (text: string) => (text.trim() === '' ? null : Number(text));

	async function named(text: string) {
		// An edit that is under way may make it the field of another instrument.
		await open.settled();
		const all = await ask();
		const sound = soundMeant(text, all, partAt(open.set, instrument, channel).sound);
		await change(sound ? sound.name : 'whatever it plays', { sound });
	}
	/** Keys pick among the programs, by ear; another press ends it. */
	const picking = $derived(played.picker?.who === id);
	async function pickByKey() {
		if (picking) {
			played.picker = null;
			return;
		}
		await ask();
		played.listening = true;
		played.picker = { who: id, pick: (key) => void picked(key) };
	}
	async function picked(key: number) {
		const sound = soundOnKey(key, choices, part.sound);
		if (await change(sound.name, { sound })) await played.hear(instrument, channel, sound);
	}
	$effect(() => () => {
		if (played.picker?.who === id) played.picker = null;
	});
	const numbered = (numbers: Parameters<typeof soundNumbered>[1]) =>
		change('other numbers', (now) => ({ sound: soundNumbered(now.sound, numbers) }));
</script>

<div class="flex flex-wrap items-end gap-3">
	<KeptField
		label="Sound"
		class="input w-52 input-sm"
		list={`${id}-sounds`}
		maxlength={60}
		placeholder="whatever it plays"
		value={part.sound?.name ?? ''}
		onfocus={() => void ask()}
		save={named}
	/><datalist id={`${id}-sounds`}>
		{#each choices as { title } (title)}<option value={title}></option>{/each}
	</datalist>

	<KeptField
		label={`Program${of?.counts === null ? ', from 0' : ''}`}
		class="input w-20 input-sm"
		type="number"
		min={counts}
		max={127 + counts}
		value={part.sound ? String(part.sound.program + counts) : ''}
		save={(text) => (text === '' ? named('') : numbered({ program: Number(text) - counts }))}
	/>
	<button
		class={['btn btn-sm', picking && 'is-chosen']}
		aria-pressed={picking}
		onclick={() => void pickByKey()}>Pick by key</button
	>
	{#each halves as [half, title] (half)}
		<KeptField
			label={title}
			class="input w-18 input-sm"
			type="number"
			min="0"
			max="127"
			value={part.sound?.[half]?.toString() ?? ''}
			save={(text) => numbered({ [half]: numberOf(text) })}
		/>
	{/each}
	<KeptField
		label="Volume, %"
		class="input w-20 input-sm"
		type="number"
		min="0"
		max="200"
		placeholder="as is"
		value={part.volume?.toString() ?? ''}
		save={(text) => change('volume', { volume: numberOf(text) })}
	/>
</div>
