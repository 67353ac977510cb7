import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { degreesOf, padsInScale, SCALES, type ScaleLayout } from './scales';

const layout = (more: Partial<ScaleLayout> = {}): ScaleLayout => ({
	key: 'C',
	scale: 'major',
	rows: 1,
	columns: 8,
	octave: 4,
	rowDegrees: 3,
	middle: 4,
	...more
});
const names = (more: Partial<ScaleLayout>) => padsInScale(layout(more)).map(({ name }) => name);

describe('pads in a scale', () => {
	it.each([
		['C', 'major', 'C4 D4 E4 F4 G4 A4 B4 C5'],
		['Eb', 'major', 'Eb4 F4 G4 Ab4 Bb4 C5 D5 Eb5'],
		['F#', 'major', 'F#4 G#4 A#4 B4 C#5 D#5 E#5 F#5'],
		['Gb', 'major', 'Gb4 Ab4 Bb4 Cb5 Db5 Eb5 F5 Gb5'],
		['A', 'harmonic minor', 'A4 B4 C5 D5 E5 F5 G#5 A5'],
		['C', 'blues', 'C4 Eb4 F4 Gb4 G4 Bb4 C5 Eb5'],
		['B', 'mixolydian', 'B4 C#5 D#5 E5 F#5 G#5 A5 B5'],
		['Cb', 'major', 'Cb4 Db4 Eb4 Fb4 Gb4 Ab4 Bb4 Cb5']
	])('are named as they are written: %s %s', (key, scale, written) => {
		expect(names({ key, scale }).join(' ')).toBe(written);
	});

	it('rise by the interval between rows', () => {
		const pads = padsInScale(layout({ rows: 2, columns: 4, rowDegrees: 3 }));
		expect(pads.map(({ note }) => note)).toEqual([60, 62, 64, 65, 65, 67, 69, 71]);
		expect(pads.filter(({ root }) => root).map(({ name }) => name)).toEqual(['C4']);
	});

	it('say where the scale leaves the range of notes', () => {
		expect(padsInScale(layout({ octave: 9 })).map(({ note }) => note)).toEqual([
			120,
			122,
			124,
			125,
			127,
			null,
			null,
			null
		]);
	});

	it('are all in key, sound as they are named, and one letter stands for one note of a seven-note scale', () => {
		const natural: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
		fc.assert(
			fc.property(
				fc.constantFrom('C', 'C#', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B', 'Cb'),
				fc.constantFrom(...Object.keys(SCALES)),
				fc.integer({ min: 1, max: 8 }),
				fc.integer({ min: 1, max: 8 }),
				fc.integer({ min: 0, max: 7 }),
				fc.integer({ min: 1, max: 7 }),
				fc.constantFrom(3 as const, 4 as const, 5 as const),
				(key, scale, rows, columns, octave, rowDegrees, middle) => {
					const pads = padsInScale({ key, scale, rows, columns, octave, rowDegrees, middle });
					const steps = degreesOf(SCALES[scale as keyof typeof SCALES]).map(({ semitones }) => semitones);
					const [root] = pads;
					for (const { note, name, row, column } of pads) {
						const [, letter, signs, number] = /^([A-G])([b#]*)(-?\d+)$/.exec(name)!;
						const named =
							natural[letter] +
							[...signs].reduce((sum, sign) => sum + (sign === '#' ? 1 : -1), 0) +
							12 * (Number(number) - middle) +
							60;
						if (note === null) expect(named < 0 || named > 127).toBe(true);
						else {
							expect(named).toBe(note);
							if (root.note !== null) expect(steps).toContain((((note - root.note) % 12) + 12) % 12);
						}
						// The next degree, wherever it stands.
						const before = pads.find((pad) => pad.row === row && pad.column === column - 1);
						if (before?.note != null && note !== null) expect(note).toBeGreaterThan(before.note);
					}
					if (steps.length === 7)
						expect(new Set(pads.map(({ name }) => name.replace(/-?\d+$/, ''))).size).toBeLessThanOrEqual(7);
				}
			),
			{ numRuns: 500 }
		);
	});

	it.each([['1 3 2'], ['2 3'], ['1 8'], [''], ['1 b1']])('refuse what is no scale: “%s”', (scale) => {
		expect(() => padsInScale(layout({ scale }))).toThrow(expect.objectContaining({ code: 'scale.formula' }));
	});
});
