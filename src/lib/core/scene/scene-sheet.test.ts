import { expect, it } from 'vitest';
import { setSchema } from './set';
import { sheetRows } from './scene-sheet';

const set = setSchema.parse({
	setup: {
		players: [
			{ id: 'low', name: 'Lower', own: 'organ', sends: 3, keys: [36, 96] },
			{ id: 'up', name: 'Upper', keys: [48, 72] }
		],
		instruments: [
			{ id: 'organ', name: 'Organ' },
			{ id: 'm', name: 'Module' }
		]
	},
	scenes: [
		{
			number: 1,
			name: 'One',
			zones: [
				{
					id: 'b',
					name: 'Strings',
					player: 'up',
					keys: [60, 72],
					octaves: -1,
					semitones: 7,
					to: [{ instrument: 'm', channel: 2 }]
				},
				{
					id: 'a',
					name: 'Bass',
					player: 'up',
					keys: [48, 59],
					struck: [1, 90],
					leaves: { controller: 67 },
					expression: 'volume',
					to: [
						{ instrument: 'm', channel: 1 },
						{ instrument: 'gone', channel: 4 }
					]
				},
				{ id: 'c', name: 'Off', player: 'up', on: false }
			],
			parts: [
				{ instrument: 'm', channel: 1, sound: { name: 'Deep', program: 3 }, volume: 80 },
				{ instrument: 'organ', channel: 3, sound: { name: 'Flutes', program: 0 } }
			]
		}
	]
});

it('says what each range of keys plays, by player and from the lowest key, and what is special there', () => {
	expect(
		sheetRows(set, set.scenes[0]).map(({ player, keys, zone, plays, besides }) =>
			[player, keys, zone, plays.join(' + '), besides].join(' | ')
		)
	).toEqual([
		'Lower | C2–C7 | its own sound | Organ 3: Flutes | ',
		'Upper | C3–B3 | Bass | Module 1: Deep, 80 % + gone 4: whatever it plays | struck 1–90, out while controller 67 is down, expression does volume',
		'Upper | C4–C5 | Strings | Module 2: whatever it plays | −1 oct +7 st'
	]);
	expect(sheetRows(set, { ...set.scenes[0], local: { low: false } })).toHaveLength(2);
});
