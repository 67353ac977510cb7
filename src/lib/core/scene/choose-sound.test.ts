import { expect, it } from 'vitest';
import { soundChoices, soundMeant, soundNumbered } from './choose-sound';
import type { SlotSeen } from './follow';

const slot = (index: number, name: string | null): SlotSeen => ({
	area: 'programs',
	index,
	label: `A${index}`,
	record: name && name[0].toLowerCase().repeat(64),
	name,
	state: 'proved',
	select: { msb: 1, lsb: null, program: index },
	at: null
});
const choices = soundChoices([slot(0, 'Glass'), slot(1, 'Brass'), slot(2, 'Brass'), slot(3, null)]);

it('offers what the drawers hold, and General MIDI as a guess where they hold nothing', () => {
	expect(choices.map(({ title }) => title)).toEqual(['Glass · A0', 'Brass · A1', 'Brass · A2']);
	const guesses = soundChoices([slot(3, null)]);
	expect(guesses).toHaveLength(128);
	expect(guesses[19].sound).toMatchObject({ name: 'Church Organ', program: 19, from: 'general midi' });
});

it('takes a sound by its title or by a name of its own, and else calls the numbers so', () => {
	expect(soundMeant(' glass ', choices, null)).toMatchObject({
		from: 'drawer',
		program: 0,
		msb: 1,
		kept: { index: 0 }
	});
	expect(soundMeant('brass · a2', choices, null)).toMatchObject({ program: 2 });
	// Two are called so: neither is meant by that alone.
	const now = choices[1].sound;
	expect(soundMeant('Brass', choices, now)).toMatchObject({ from: 'typed', program: 1, kept: null });
	expect(soundMeant('My lead', choices, null)).toMatchObject({ name: 'My lead', program: 0, from: 'typed' });
	expect(soundMeant('  ', choices, now)).toBeNull();
});

it('does not go on calling a sound kept whose numbers were changed', () => {
	expect(soundNumbered(choices[0].sound, { program: 9 })).toMatchObject({
		name: 'Glass',
		program: 9,
		msb: 1,
		from: 'typed',
		kept: null
	});
	expect(soundNumbered(null, { program: 9 })).toMatchObject({ name: 'Program 9' });
});
