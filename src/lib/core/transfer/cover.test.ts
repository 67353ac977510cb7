import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cheapestCover, type Stretch } from './cover';

/** Tries every subset. */
function brute(slots: number[], offers: Stretch[]): number {
	let best = Infinity;
	for (let mask = 0; mask < 1 << offers.length; mask++) {
		const chosen = offers.filter((_, i) => mask & (1 << i));
		if (slots.every((slot) => chosen.some(({ first, end }) => first <= slot && slot < end)))
			best = Math.min(
				best,
				chosen.reduce((sum, { cost }) => sum + cost, 0)
			);
	}
	return best;
}

const stretch = fc
	.tuple(fc.integer({ min: 0, max: 15 }), fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 20 }))
	.map(([first, length, cost]) => ({ first, end: first + length, cost }));
const someSlots = fc
	.uniqueArray(fc.integer({ min: 0, max: 20 }), { minLength: 1, maxLength: 10 })
	.map((list) => list.sort((a, b) => a - b));

describe('the cheapest cover', () => {
	it('is as cheap as the best of all subsets', () => {
		fc.assert(
			fc.property(someSlots, fc.array(stretch, { maxLength: 9 }), (slots, offers) => {
				const cover = cheapestCover(slots, offers);
				const best = brute(slots, offers);
				if (!cover) {
					expect(best).toBe(Infinity);
					return;
				}
				expect(cover.reduce((sum, { cost }) => sum + cost, 0)).toBe(best);
				for (const slot of slots)
					expect(cover.some(({ first, end }) => first <= slot && slot < end)).toBe(true);
			}),
			{ numRuns: 600 }
		);
	});

	it('takes single slots for two and the bank for many', () => {
		const singles = Array.from({ length: 64 }, (_, i) => ({ first: i, end: i + 1, cost: 12 }));
		const banks = [0, 32].map((first) => ({ first, end: first + 32, cost: 100 }));
		const wanted = [...Array.from({ length: 20 }, (_, i) => i), 40, 50];
		expect(cheapestCover(wanted, [...singles, ...banks])).toEqual([banks[0], singles[40], singles[50]]);
	});
});
