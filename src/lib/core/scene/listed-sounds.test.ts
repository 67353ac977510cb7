import { describe, expect, it } from 'vitest';
import { readNameDocument, writeNameDocument } from '../drawer';
import { soundChoices, soundMeant, soundOnKey } from './choose-sound';
import { soundsListed } from './listed-sounds';

const patch = (name: string, programChange: number | null) => ({ number: '', name, programChange });

it('takes sounds with their banks out of a name document, and counts what selects nothing', () => {
	const { banks } = readNameDocument(
		writeNameDocument({
			author: 'A',
			manufacturer: 'Osier',
			model: 'Weir',
			banks: [
				{
					name: 'One',
					bankSelect: { high: 1, low: null },
					patches: [patch(' Tide ', 0), patch('Fen', 127), patch('', 3), patch('Nowhere', null)]
				},
				{ name: 'Two', bankSelect: null, patches: [patch('Tide', 0), patch('Tide', 0)] }
			]
		})
	);
	expect(soundsListed({ banks })).toEqual({
		sounds: [
			{ name: 'Tide', msb: 1, lsb: null, program: 0 },
			{ name: 'Fen', msb: 1, lsb: null, program: 127 },
			{ name: 'Tide', msb: null, lsb: null, program: 0 }
		],
		left: 2
	});
	const odd = [{ name: '', bankSelect: { high: 128, low: 0.5 }, patches: [patch('X', 128), patch('Y', 1)] }];
	expect(soundsListed({ banks: odd })).toEqual({
		sounds: [{ name: 'Y', msb: null, lsb: null, program: 1 }],
		left: 1
	});
});

describe('listed sounds', () => {
	const listed = [
		{ name: 'Tide', msb: 1, lsb: null, program: 0 },
		{ name: 'Fen', msb: 1, lsb: null, program: 9 },
		{ name: 'Reed', msb: 2, lsb: null, program: 9 }
	];
	it('are chosen by name as such, after those of drawers and instead of General MIDI', () => {
		const choices = soundChoices([], listed);
		expect(choices).toHaveLength(3);
		expect(soundMeant('fen', choices, null)).toMatchObject({ name: 'Fen', msb: 1, program: 9, from: 'list' });
		expect(new Set(choices.map(({ title }) => title)).size).toBe(3);
		expect(soundChoices([])).toHaveLength(128);
	});

	it('are picked by a key: of the bank that stands there, else of any, else as the number that it is', () => {
		const choices = soundChoices([], listed);
		const now = soundMeant('Reed', choices, null);
		expect(soundOnKey(9, choices, now)).toMatchObject({ name: 'Reed', msb: 2, from: 'list' });
		expect(soundOnKey(0, choices, now)).toMatchObject({ name: 'Tide', msb: 1, from: 'list' });
		expect(soundOnKey(5, choices, now)).toMatchObject({
			name: 'Program 5',
			msb: 2,
			program: 5,
			from: 'typed'
		});
		expect(soundOnKey(0, soundChoices([]), null)).toMatchObject({ program: 0, from: 'general midi' });
	});
});
