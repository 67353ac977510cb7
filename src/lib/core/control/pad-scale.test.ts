import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkMap } from './checks';
import { applyEdits } from '../edit';
import { linked, mapSchema } from './map';
import { mapOf } from './map.fixture';
import { padRows, scaleOnPads } from './pad-scale';
import { SCALES } from './scales';

const sluice = mapOf('quillon-sluice-16', { pages: [{ number: 1, assignments: [] }] });
const layout = { key: 'D', scale: 'dorian', octave: 3, rowDegrees: 3, middle: 4 } as const;
/** The note numbers of a page's pads, read off the map. */
const notesOf = (map: typeof sluice) =>
	padRows(map).map((row) =>
		row.map(({ id }) => {
			const own = map.pages[0].assignments.find(({ control }) => control === id);
			const [link] = own?.links ?? [];
			const address = link && linked(map, link).target?.address;
			return address?.kind === 'note' ? address.number : null;
		})
	);

describe('a scale on the pads', () => {
	it('begins at the lowest left one, and is named as its key writes it', () => {
		const { edits, silent } = scaleOnPads(sluice, 1, layout, 10);
		const map = mapSchema.parse(applyEdits(sluice, edits));
		const [lowest, second] = notesOf(map);
		// D dorian, by hand: D E F G A B C, middle C being C4, so that D3 is 50.
		expect(lowest.slice(0, 4)).toEqual([50, 52, 53, 55]);
		expect(second[0]).toBe(55);
		expect(silent).toEqual([]);
		const first = map.pages[0].assignments.find(({ control }) => control === padRows(map)[0][0].id)!;
		// Rows overlap: what tells the same note may be called the same, and nothing is wrong with it.
		expect(checkMap(map).filter(({ severity }) => severity !== 'note')).toEqual([]);
		expect(first).toMatchObject({ name: 'D3', way: 'momentary', links: [{ channel: 10 }] });
	});

	it('is in key on every pad, whatever key, scale and place, and what leaves the range does nothing', () => {
		const steps: Record<string, number[]> = {
			major: [0, 2, 4, 5, 7, 9, 11],
			'minor pentatonic': [0, 3, 5, 7, 10],
			'whole tone': [0, 2, 4, 6, 8, 10]
		};
		const keys: Record<string, number> = { C: 0, 'F#': 6, Bb: 10 };
		fc.assert(
			fc.property(
				fc.constantFrom(...Object.keys(steps)),
				fc.constantFrom(...Object.keys(keys)),
				fc.integer({ min: -1, max: 9 }),
				fc.integer({ min: 0, max: 8 }),
				(scale, key, octave, rowDegrees) => {
					expect(Object.keys(SCALES)).toContain(scale);
					const { edits, silent, pads } = scaleOnPads(
						sluice,
						1,
						{ key, scale, octave, rowDegrees, middle: 4 },
						3
					);
					const map = mapSchema.parse(applyEdits(sluice, edits));
					const notes = notesOf(map).flat();
					for (const note of notes)
						if (note !== null) expect(steps[scale]).toContain((note - keys[key] + 120) % 12);
					expect(notes.filter((note) => note === null)).toHaveLength(silent.length);
					for (const { control, pad } of pads)
						if (pad.note === null)
							expect(map.pages[0].assignments.find((each) => each.control === control.id)).toMatchObject({
								empty: true
							});
				}
			),
			{ numRuns: 40 }
		);
	});
});
