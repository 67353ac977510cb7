import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { GENERAL_MIDI } from './general-midi';
import { allOff, desksCompared, dropScene, freeNumber, recallScene, storeScene } from './scenes';
import { deskOf, sceneNumbered, setSchema, type ShowSet } from './set';

const sound = (name: string) => ({ name, program: 3 });
const set = setSchema.parse({
	setup: {
		players: [{ id: 'keys', name: 'Keys', own: 'piano', local: false }],
		instruments: [
			{ id: 'choir', name: 'Dome choir' },
			{ id: 'piano', name: 'Piano' }
		],
		zones: [{ id: 'lead', name: 'Lead', player: 'keys', to: [{ instrument: 'choir', channel: 1 }] }]
	},
	parts: [{ instrument: 'choir', channel: 1, sound: sound('Glass'), volume: 80 }],
	tempo: 90
});
const stored = (of: ShowSet, number: number, name: string) =>
	setSchema.parse(applyEdits(of, storeScene(of, number, name)));
const changed = (of: ShowSet) =>
	setSchema.parse({
		...of,
		setup: {
			...of.setup,
			players: of.setup.players.map((player) => ({ ...player, local: true })),
			zones: [
				{ ...of.setup.zones[0], on: false, octaves: 1 },
				{ ...of.setup.zones[0], id: 'low', name: 'Low' }
			]
		},
		parts: [{ instrument: 'choir', channel: 1, sound: sound('Brass'), volume: null }],
		pages: [{ controller: 'Span', page: 'Comets' }],
		tempo: null,
		silence: true
	});

describe('scenes', () => {
	it('store what is on the desk and bring it back, whatever became of it', () => {
		const one = stored(set, 4, 'Opening');
		expect(one).toMatchObject({
			recalled: 4,
			scenes: [{ number: 4, name: 'Opening', local: { keys: false }, tempo: 90 }]
		});
		const other = changed(one);
		const back = setSchema.parse(applyEdits(other, recallScene(other, sceneNumbered(other, 4)!)));
		expect(deskOf(back)).toEqual(deskOf(set));
		// Who was not there yet plays as they do.
		const more = {
			...other,
			setup: {
				...other.setup,
				players: [...other.setup.players, { ...other.setup.players[0], id: 'new', local: false }]
			}
		};
		const { setup } = applyEdits(more, recallScene(more, sceneNumbered(more, 4)!));
		expect(setup.players.map(({ local }) => local)).toEqual([false, false]);
		expect(desksCompared(back, sceneNumbered(back, 4)!, deskOf(back))).toEqual([]);
	});
	it('are kept by number, each once, and the first free one is found', () => {
		const two = stored(stored(set, 2, 'Second'), 1, 'First');
		expect(two.scenes.map(({ number }) => number)).toEqual([1, 2]);
		expect(freeNumber(two)).toBe(3);
		const over = stored(two, 2, 'Second, anew');
		expect(over.scenes.map(({ name }) => name)).toEqual(['First', 'Second, anew']);
		expect(setSchema.safeParse({ scenes: [over.scenes[0], over.scenes[0]] }).success).toBe(false);
	});
	it('go without leaving a trace in songs', () => {
		const one = setSchema.parse({
			...stored(set, 4, 'Opening'),
			start: 4,
			songs: [{ id: 's', name: 'Song', scenes: [4, 5] }]
		});
		expect(applyEdits(one, dropScene(one, 4))).toMatchObject({
			scenes: [],
			recalled: null,
			start: null,
			songs: [{ scenes: [5] }]
		});
	});
	it('are compared in words', () => {
		expect(desksCompared(set, deskOf(set), deskOf(changed(set)))).toEqual([
			'Lead is switched off.',
			'Lead: octaves changed.',
			'Low is a zone more.',
			'Dome choir, channel 1: Brass instead of Glass.',
			'Dome choir, channel 1: volume as it is instead of 80 %.',
			'Keys: local on.',
			'Span shows Comets.',
			'No tempo is said any more.',
			'What sounds ends.'
		]);
		expect(desksCompared(set, deskOf(changed(set)), deskOf(set))).toContain('Low is no zone any more.');
	});
	it('all off plays nothing and ends what sounds', () => {
		expect(allOff(set, 0)).toMatchObject({
			zones: [{ on: false }],
			local: { keys: false },
			silence: true,
			parts: []
		});
	});
	it('General MIDI has 128 names, each once', () => {
		expect(new Set(GENERAL_MIDI).size).toBe(128);
	});
});
