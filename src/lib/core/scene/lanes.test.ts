import fc from 'fast-check';
import { expect, it } from 'vitest';
import { lanesOf } from './lanes';

it('puts ranges into as few lanes as the busiest key needs, none over another', () => {
	const range = fc
		.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 12 }))
		.map(([from, more]): [number, number] => [from, from + more]);
	fc.assert(
		fc.property(fc.array(range, { maxLength: 12 }), (ranges) => {
			const lanes = lanesOf(ranges);
			for (let key = 0; key <= 42; key++) {
				const here = lanes.filter((_, i) => ranges[i][0] <= key && key <= ranges[i][1]);
				expect(new Set(here).size).toBe(here.length);
			}
			const busiest = Math.max(
				0,
				...Array.from({ length: 43 }, (_, key) => ranges.filter(([a, b]) => a <= key && key <= b).length)
			);
			expect(new Set(lanes).size).toBe(busiest);
		})
	);
});
