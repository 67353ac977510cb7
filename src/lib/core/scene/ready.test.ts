import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { readiness } from './ready';
import { setSchema, soundSchema, type ShowSet } from './set';
import type { Followed, SlotSeen } from './follow';
import type { FollowedSound } from './told-set';

const record = 'a'.repeat(64);
const sound = soundSchema.parse({
	name: 'Glass',
	program: 4,
	from: 'drawer',
	kept: { area: 'programs', index: 4, record }
});
const slot = (index: number, more: Partial<SlotSeen> = {}): SlotSeen => ({
	area: 'programs',
	index,
	label: `P${index}`,
	record,
	name: 'Glass',
	state: 'proved',
	select: { msb: null, lsb: null, program: index },
	at: '2026-01-02T00:00:00.000Z',
	...more
});
const scene = (number: number, more: object = {}) => ({
	number,
	name: `Station ${number}`,
	zones: [{ id: 'z', name: 'Lead', player: 'p', keys: [36, 96], to: [{ instrument: 'm', channel: 1 }] }],
	parts: [{ instrument: 'm', channel: 1, sound }],
	...more
});
const made = (more: object = {}, instrument: object = {}): ShowSet =>
	setSchema.parse({
		setup: {
			players: [{ id: 'p', name: 'Upper', keys: [36, 96] }],
			instruments: [{ id: 'm', name: 'Module', loadMs: 20, ...instrument }]
		},
		scenes: [scene(1), scene(2, { tempo: 90 })],
		songs: [{ id: 's', name: 'Comets', scenes: [1, 2] }],
		...more
	});
const told = (followed: Followed, scenes = [1, 2]): FollowedSound[] => [
	{ instrument: 'm', sound, scenes, desk: false, followed }
];
const there: Followed = { is: 'there', slot: slot(4) };
const kinds = (set: ShowSet, sounds = told(there)) =>
	readiness(set, sounds, null).items.map(({ kind, says }) => `${kind}: ${says}`);

describe('readiness', () => {
	it('is ready where everything is shown, and says since when, and what each step takes', () => {
		const { ready, items, steps, since } = readiness(made(), told(there), null);
		expect([ready, items]).toEqual([true, []]);
		expect(since).toBe('2026-01-02T00:00:00.000Z');
		expect(steps).toMatchObject([
			{ scene: 1, says: '1 message, 21 ms', messages: 1 },
			{ scene: 2, says: 'nothing to send', hands: ['Tempo 90.'] }
		]);
	});
	it('is not ready without songs', () => {
		expect(readiness(made({ songs: [] }), told(there), null)).toMatchObject({
			ready: false,
			items: [],
			steps: []
		});
	});
	it.each<[string, Followed, string]>([
		['not proved', { is: 'there', slot: slot(4, { state: 'changed' }) }, 'unknown: Glass (Module) was in P4'],
		['unknown', { is: 'unknown', slot: null }, 'unknown: Glass (Module) is not known to be there.'],
		['moved', { is: 'moved', slot: slot(4), to: [slot(7)] }, 'missing: Glass (Module) is in P7 now.'],
		['edited', { is: 'edited', slot: slot(4) }, 'missing: Glass (Module) was edited since.'],
		[
			'renumbered',
			{ is: 'renumbered', slot: slot(4), select: { msb: 1, lsb: null, program: 4 } },
			'missing: Glass (Module) is selected by'
		],
		['lost', { is: 'lost', slot: slot(4), whole: true }, 'missing: Glass (Module) is not there']
	])('is not ready where a sound is %s', (_, followed, says) => {
		const { ready, items } = readiness(made(), told(followed), null);
		expect(ready).toBe(false);
		expect(`${items[0].kind}: ${items[0].says}`).toContain(says);
		// Sounds of scenes that no song plays are none of the show's.
		const another = { ...sound, name: 'Brass' };
		const unplayed = made({
			scenes: [scene(1), scene(2, { parts: [{ instrument: 'm', channel: 1, sound: another }] })],
			songs: [{ id: 's', name: 'Comets', scenes: [2] }]
		});
		expect(readiness(unplayed, told(followed), null).ready).toBe(true);
		// Nor are those of parts that no key of the scene leads to.
		const elsewhere = [1, 2].map((number) =>
			scene(number, {
				parts: [
					{ instrument: 'm', channel: 1, sound: { ...sound, name: 'Brass' } },
					{ instrument: 'm', channel: 2, sound }
				]
			})
		);
		expect(readiness(made({ scenes: elsewhere }), told(followed), null).ready).toBe(true);
	});
	it('takes a moved sound from its new place in all scenes at once', () => {
		const set = made();
		const { items } = readiness(set, told({ is: 'moved', slot: slot(4), to: [slot(7)] }), null);
		const after = applyEdits(set, items[0].cure.edits);
		expect(after.scenes.map(({ parts }) => parts[0].sound!.program)).toEqual([7, 7]);
	});
	it('tells songs without scenes, scenes that are gone, hands, and what nobody measured', () => {
		const set = made(
			{
				songs: [
					{ id: 's', name: 'Comets', scenes: [1, 7], hands: ['Retune the drone.'] },
					{ id: 't', name: 'Home' }
				]
			},
			{ loadMs: null }
		);
		expect(kinds(set)).toEqual([
			'missing: Comets wants scene 7, which is not stored.',
			'missing: Home has no scene.',
			'unknown: How long Module takes to load a program, nobody has noted.',
			'hand: Before Comets: Retune the drone.'
		]);
		const { items } = readiness(set, told(there), null);
		expect(applyEdits(set, items[0].cure.edits).songs[0].scenes).toEqual([1]);
	});
	it('tells a pause that is too short for its change, and an instrument that is away', () => {
		const songs = [
			{ id: 's', name: 'Comets', scenes: [1] },
			{ id: 't', name: 'Home', scenes: [2], pauseSeconds: 0.01 }
		];
		const other = { ...sound, program: 5, kept: null, from: 'typed' };
		const scenes = [scene(1), scene(2, { parts: [{ instrument: 'm', channel: 1, sound: other }] })];
		expect(kinds(made({ songs, scenes }))).toContainEqual(
			'missing: 2 Station 2 takes 21 ms, and the pause before Home has 10 ms.'
		);
		expect(kinds(made({}, { away: true }))).toContainEqual('missing: Module is noted as away or off.');
		const noLine = readiness(made(), told(there), null, () => null);
		expect(noLine.items.map(({ says }) => says)).toContain('No line leads to Module.');
	});
	it('tells what is wrong in several scenes once', () => {
		const zones = [
			{ id: 'z', name: 'Lead', player: 'p', floor: 100, ceiling: 50, to: [{ instrument: 'm', channel: 1 }] }
		];
		const { items, ready } = readiness(
			made({ scenes: [scene(1, { zones }), scene(2, { zones })] }),
			told(there),
			null
		);
		expect(items.find(({ says }) => says.includes('above the ceiling'))).toMatchObject({
			kind: 'missing',
			scenes: [1, 2]
		});
		expect(ready).toBe(false);
	});
});
