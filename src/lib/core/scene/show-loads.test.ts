import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import type { Followed, SlotSeen } from './follow';
import { readiness } from './ready';
import { setSchema, soundSchema, type ShowSet, type Sound } from './set';
import { isLoaded, showLoads, type LoadNotes } from './show-loads';
import type { FollowedSound } from './told-set';

const hash = (letter: string) => letter.repeat(64);
/** A sound that a scene names in a slot: its letter stands for its content. */
const sound = (letter: string, index: number): Sound =>
	soundSchema.parse({
		name: `Sound ${letter}`,
		program: index,
		from: 'drawer',
		kept: { area: 'programs', index, record: hash(letter) }
	});
const slot = (index: number, letter: string | null = 'f'): SlotSeen => ({
	area: 'programs',
	index,
	label: `P${index}`,
	record: letter && hash(letter),
	name: letter && `Sound ${letter}`,
	state: 'proved',
	select: { msb: null, lsb: null, program: index },
	at: '2026-01-02T00:00:00.000Z'
});
/** A set of songs with a scene each, by the sounds that they play; `x4` is sound x where slot 4 is named. */
const made = (songs: string[][], instrument: object = {}, more: object = {}): ShowSet =>
	setSchema.parse({
		setup: {
			players: [{ id: 'p', name: 'Upper' }],
			instruments: [{ id: 'm', name: 'Module', loadMs: 20, ...instrument }]
		},
		scenes: songs.map((sounds, i) => ({
			number: i + 1,
			name: `Scene ${i + 1}`,
			zones: [
				{
					id: 'z',
					name: 'All',
					player: 'p',
					to: sounds.map((_, at) => ({ instrument: 'm', channel: at + 1 }))
				}
			],
			parts: sounds.map(([letter, ...index], at) => ({
				instrument: 'm',
				channel: at + 1,
				sound: sound(letter, Number(index.join('')))
			}))
		})),
		songs: songs.map((_, i) => ({ id: `song-${i}`, name: `Song ${i + 1}`, scenes: [i + 1] })),
		...more
	});
/** Follows the sounds of a set by what the slots hold, as one who looks at them would say. */
function followed(set: ShowSet, memory: (string | null)[]): FollowedSound[] {
	const found = new Map<string, FollowedSound>();
	for (const { number, parts } of set.scenes)
		for (const { instrument, sound } of parts) {
			const { index, record } = sound!.kept!;
			const to = memory.flatMap((letter, at) =>
				letter && hash(letter) === record ? [slot(at, letter)] : []
			);
			const here = memory[index] ?? null;
			const is: Followed =
				here && hash(here) === record
					? { is: 'there', slot: slot(index, here) }
					: to.length > 0
						? { is: 'moved', slot: slot(index, here), to }
						: here === null
							? { is: 'unknown', slot: slot(index, null) }
							: { is: 'lost', slot: slot(index, here), whole: true };
			const key = JSON.stringify(sound);
			const one = found.get(key) ?? { instrument, sound: sound!, scenes: [], desk: false, followed: is };
			one.scenes.push(number);
			found.set(key, one);
		}
	return [...found.values()];
}
const notes = (memory: (string | null)[], more: Partial<LoadNotes> = {}): LoadNotes => ({
	slots: () => memory.map((letter, at) => slot(at, letter)),
	kept: () => true,
	ms: (_, __, loads) => loads.length * 1000,
	...more
});
const loads = (set: ShowSet, memory: (string | null)[], more: Partial<LoadNotes> = {}) =>
	showLoads(set, followed(set, memory), notes(memory, more));
const words = (set: ShowSet, memory: (string | null)[], more: Partial<LoadNotes> = {}) =>
	loads(set, memory, more).loadings.map(
		({ before, loads: some }) =>
			`${before?.name ?? 'show'}: ${some.map(({ sound: { name }, slot: { label, name: was }, over }) => `${name} ${label} over ${over ?? was}`).join(', ')}`
	);

describe('loads of a set', () => {
	it('are none where every sound is there, was moved, renamed or is not known', () => {
		expect(words(made([['a0'], ['b1']]), ['a', 'b'])).toEqual([]);
		expect(words(made([['a0'], ['b1']]), ['a', null])).toEqual([]);
		expect(words(made([['a0'], ['b1']]), ['f', 'b', 'a'])).toEqual([]);
	});
	it('bring a lost sound back into its slot before the show', () => {
		expect(words(made([['a0'], ['b1']]), ['f', 'b'])).toEqual(['show: Sound a P0 over Sound f']);
	});
	it('come between songs where two sounds share a slot and no other may be written', () => {
		expect(words(made([['a0'], ['b0']]), ['a', 'x'])).toEqual(['Song 2: Sound b P0 over Sound a']);
	});
	it('come before the show where another slot may be written, and the scenes take its numbers', () => {
		const memory = ['a', 'x'];
		const set = made([['a0'], ['b0']], { showSlots: { area: 'programs', slots: [0, 1] } });
		set.parts = set.scenes[1].parts;
		expect(words(set, memory)).toEqual(['show: Sound b P1 over Sound x']);
		const after = applyEdits(set, loads(set, memory).edits);
		expect(after.scenes[1].parts[0].sound).toMatchObject({
			name: 'Sound b',
			program: 1,
			kept: { index: 1, record: hash('b') }
		});
		expect(after.scenes[0]).toEqual(set.scenes[0]);
		// What is on the desk is the same sound.
		expect(after.parts).toEqual(after.scenes[1].parts);
		// Once it is loaded there, nothing is left to do.
		expect(loads(after, ['a', 'b'])).toMatchObject({ loadings: [], edits: [] });
	});
	it('leave slots alone that are not for the show, and sounds that are in them', () => {
		const set = made([['a0', 'b1'], ['c1']], { showSlots: { area: 'programs', slots: [2, 3] } });
		expect(words(set, ['a', 'b', 'x', 'y'])).toEqual(['show: Sound c P2 over Sound x']);
	});
	it('are only of sounds that are kept, that songs play, and for areas that can be written', () => {
		const set = made([['a0'], ['b1']]);
		expect(words(set, ['f', 'b'], { kept: () => false })).toEqual([]);
		expect(words(set, ['f', 'b'], { slots: () => [] })).toEqual([]);
		expect(words({ ...set, songs: set.songs.slice(1) }, ['f', 'b'])).toEqual([]);
	});
	it('are not planned where a song wants more than may be written', () => {
		const set = made([['a0'], ['b0', 'c0']]);
		expect(loads(set, ['a'])).toMatchObject({
			loadings: [],
			crowded: [{ instrument: 'm', song: 'Song 2', slots: 1 }]
		});
	});
	it('keep each sound in its own slot where that is possible', () => {
		const set = made([['a0'], ['b0', 'c1'], ['a0', 'c1']]);
		expect(words(set, ['a', 'x'])).toEqual([
			'show: Sound c P1 over Sound x',
			'Song 2: Sound b P0 over Sound a',
			'Song 3: Sound a P0 over Sound b'
		]);
	});
	it('name a scene that would need two numbers, and do not change it', () => {
		// b takes the place of a and stays, d is wanted in between: a comes back where d was.
		const set = made([['a0'], ['b0'], ['b0', 'd1'], ['b0']]);
		set.songs[3].scenes = [4, 1];
		const { torn, edits } = loads(set, ['a', 'd']);
		expect(torn).toEqual([{ scene: 1, instrument: 'm', sound: 'Sound a' }]);
		expect(edits).toEqual([]);
	});
});

describe('a show that is loaded as it is told', () => {
	const letter = fc.constantFrom('a', 'b', 'c', 'd');
	const part = fc.tuple(letter, fc.integer({ min: 0, max: 3 })).map(([sound, index]) => `${sound}${index}`);
	const songs = fc.array(fc.uniqueArray(part, { maxLength: 2, selector: ([sound]) => sound }), {
		minLength: 1,
		maxLength: 5
	});
	const memories = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'x', 'y'), { minLength: 4, maxLength: 4 });
	const noted = fc.option(fc.constantFrom([0, 1], [1, 3], [0, 3]), { nil: null });

	it('has each song find each of its sounds by the numbers of its scene', () => {
		let loaded = 0;
		fc.assert(
			fc.property(songs, memories, noted, (sounds, memory, slots) => {
				const set = made(sounds, { showSlots: slots && { area: 'programs', slots } });
				const { loadings, torn, crowded, edits } = loads(set, memory);
				fc.pre(crowded.length === 0 && torn.length === 0);
				const show = applyEdits(set, edits);
				const now = memory.map(hash);
				set.songs.forEach(({ id }, at) => {
					for (const { before, loads: some } of loadings)
						if (before === null ? at === 0 : before.id === id)
							for (const { sound: put, slot: to } of some) {
								loaded++;
								now[to.index] = put.kept!.record;
							}
					for (const { sound: wants } of show.scenes[at].parts) {
						const { index, record } = wants!.kept!;
						expect(wants!.program).toBe(index);
						// What had moved and keeps its number has a cure of its own.
						const moved = hash(memory[index]) !== record && memory.some((held) => hash(held) === record);
						const stays = set.scenes[at].parts.some(({ sound: was }) => was!.program === index);
						if (!moved || !stays) expect(now[index]).toBe(record);
					}
				});
			}),
			{ numRuns: 400 }
		);
		expect(loaded).toBeGreaterThan(100);
	});
});

describe('readiness with loads', () => {
	const ready = (set: ShowSet, memory: (string | null)[]) =>
		readiness(set, followed(set, memory), null, undefined, null, loads(set, memory));
	it('lacks what is to be loaded before the show, once, with one thing to do', () => {
		const { items, ready: is } = ready(made([['a0'], ['b1']]), ['f', 'b']);
		expect(is).toBe(false);
		expect(items).toMatchObject([
			{
				kind: 'missing',
				says: 'Module lacks a sound of its drawer: load Sound a into P0 (over Sound f), about 1 s.',
				cure: { load: { instrument: 'm', area: 'programs', before: null } }
			}
		]);
	});
	it('is ready with what hands load between songs, which stands before the song', () => {
		const { items, steps, ready: is } = ready(made([['a0'], ['b0']]), ['a']);
		expect([is, items.map(({ kind }) => kind)]).toEqual([true, ['hand']]);
		expect(items[0].cure.load?.before).toBe('song-1');
		expect(steps.map(({ loads: some }) => some.map(({ says }) => says))).toEqual([
			[],
			['Load Sound b into P0 (over Sound a) of Module.']
		]);
	});
	it('says of a load whether it lies there already', () => {
		const set = made([['a0'], ['b0']]);
		const [load] = ready(set, ['a']).steps[1].loads;
		expect(isLoaded(followed(set, ['a', 'x']), load)).toBe(false);
		expect(isLoaded(followed(set, ['b', 'x']), load)).toBe(true);
		expect(isLoaded(followed(set, ['x', 'b']), load)).toBe(false);
		// What was seen there and may have been changed since was not shown to be there.
		const touched = followed(set, ['b', 'x']).map((each): FollowedSound =>
			each.followed.is === 'there'
				? { ...each, followed: { is: 'there', slot: { ...each.followed.slot, state: 'changed' } } }
				: each
		);
		expect(isLoaded(touched, load)).toBe(false);
	});
	it('is not ready where a load is longer than the pause', () => {
		const set = made([['a0'], ['b0']]);
		set.songs[1].pauseSeconds = 0.5;
		expect(ready(set, ['a']).items.map(({ says }) => says)).toContain(
			'The load of Module before Song 2 takes about 1 s, and the pause has 0.5 s.'
		);
	});
});
