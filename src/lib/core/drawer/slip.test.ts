import fc from 'fast-check';
import { expect, it } from 'vitest';
import { beginsWithin, nearlyNamed } from './slip';

it.each([
	['slow eclpise', 'Slow Eclipse', true],
	['slow ecipse', 'Slow Eclipse', true],
	['slow ecllipse', 'Slow Eclipse', true],
	['slow eclibse', 'Slow Eclipse', true],
	['slwo eclpise', 'Slow Eclipse', false],
	['ecl', 'Slow Eclipse', true],
	['eclx', 'Slow Eclipse', true],
	['pax', 'Soft Pad', false],
	['comte', 'Pale Comet', true],
	['étoile', 'Etiole', true],
	['eclipse slow', 'Slow Eclipse', true],
	['moon', 'Slow Eclipse', false]
])('finds %s in %s: %s', (query, name, found) =>
	expect(
		nearlyNamed(
			name,
			query
				.normalize('NFD')
				.replace(/\p{Diacritic}/gu, '')
				.split(' ')
		)
	).toBe(found)
);

/** Edits in the order of the alphabet's own definition: insertions, deletions, other letters, neighbours in each other's place. */
function distance(a: string, b: string): number {
	const rows = Array.from({ length: a.length + 1 }, (_, i) => [i, ...Array<number>(b.length).fill(0)]);
	for (let j = 0; j <= b.length; j++) rows[0][j] = j;
	for (let i = 1; i <= a.length; i++)
		for (let j = 1; j <= b.length; j++) {
			rows[i][j] = Math.min(
				rows[i - 1][j] + 1,
				rows[i][j - 1] + 1,
				rows[i - 1][j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1)
			);
			if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
				rows[i][j] = Math.min(rows[i][j], rows[i - 2][j - 2] + 1);
		}
	return rows[a.length][b.length];
}

it('forgives exactly one slip, counted another way', () => {
	const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 7 });
	fc.assert(
		fc.property(word, word, (typed, name) => {
			const beginnings = Array.from({ length: name.length + 1 }, (_, end) => name.slice(0, end));
			const near = beginnings.some((beginning) => distance(typed, beginning) <= 1);
			expect(beginsWithin(typed, name)).toBe(near);
		}),
		{ numRuns: 3000 }
	);
});
