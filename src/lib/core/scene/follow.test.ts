import { expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { followSound, replaceSound, soundIn, soundsOf, type SlotSeen } from './follow';
import { setSchema, soundSchema } from './set';

const hash = (letter: string) => letter.repeat(64);
const slot = (index: number, record: string | null, more: Partial<SlotSeen> = {}): SlotSeen => ({
	area: 'programs',
	index,
	label: `P${index}`,
	record: record && hash(record),
	name: record && `Sound ${record}`,
	state: record ? 'proved' : 'never',
	select: { msb: null, lsb: null, program: index },
	at: record ? '2026-01-01T00:00:00.000Z' : null,
	...more
});
const sound = soundSchema.parse({
	name: 'Sound a',
	program: 0,
	from: 'drawer',
	kept: { area: 'programs', index: 0, record: hash('a') }
});
const nothingLike = () => null;

it('says where a sound is now, and what its slot holds instead', () => {
	const follow = (slots: SlotSeen[], like: 'renamed' | 'edited' | null = null) =>
		followSound(sound, slots, () => like);
	expect(follow([slot(0, 'a')])).toMatchObject({ is: 'there' });
	expect(follow([slot(0, 'a', { select: { msb: 1, lsb: null, program: 0 } })])).toMatchObject({
		is: 'there'
	});
	expect(follow([slot(0, 'a', { select: { msb: null, lsb: null, program: 9 } })])).toMatchObject({
		is: 'renumbered',
		select: { program: 9 }
	});
	expect(follow([slot(0, 'b'), slot(3, 'a'), slot(5, 'a')])).toMatchObject({
		is: 'moved',
		to: [{ index: 3 }, { index: 5 }]
	});
	// A place that nothing selects is none to go to.
	expect(follow([slot(0, 'b'), slot(3, 'a', { select: null })])).toMatchObject({ is: 'lost' });
	expect(follow([slot(0, null), slot(3, 'a')])).toMatchObject({ is: 'moved' });
	expect(follow([slot(0, null), slot(3, 'b')])).toMatchObject({ is: 'unknown' });
	expect(follow([slot(0, 'b')], 'renamed')).toMatchObject({ is: 'renamed' });
	expect(follow([slot(0, 'b')], 'edited')).toMatchObject({ is: 'edited' });
	expect(follow([slot(0, 'b'), slot(1, null)])).toMatchObject({ is: 'lost', whole: false });
	expect(follow([slot(0, 'b'), slot(1, 'c')])).toMatchObject({ is: 'lost', whole: true });
	expect(followSound({ ...sound, kept: null }, [slot(0, 'a')], nothingLike)).toEqual({
		is: 'unknown',
		slot: null
	});
});

it('puts a sound in another’s place on the desk and in every scene, on its instrument alone', () => {
	const part = (instrument: string) => ({ instrument, channel: 1, sound });
	const set = setSchema.parse({
		parts: [part('choir'), part('brass')],
		scenes: [
			{ number: 1, name: 'One', parts: [part('choir')] },
			{ number: 2, name: 'Two', parts: [part('brass')] }
		]
	});
	expect(soundsOf(set)).toEqual([
		{ instrument: 'choir', sound, scenes: [1], desk: true },
		{ instrument: 'brass', sound, scenes: [2], desk: true }
	]);
	const next = soundIn(slot(3, 'a'))!;
	const after = applyEdits(set, replaceSound(set, 'choir', sound, next));
	expect(soundsOf(after)).toEqual([
		{ instrument: 'choir', sound: next, scenes: [1], desk: true },
		{ instrument: 'brass', sound, scenes: [2], desk: true }
	]);
	expect(soundIn(slot(3, null))).toBeNull();
	expect(soundIn(slot(3, 'a', { name: '   ' }))).toMatchObject({ name: 'P3' });
});
