import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Milp, terms } from './milp';
import { safeBound } from './safe-bound';

/** A small programme of yes and no, and all of its solutions' values of a goal. */
const programmes = fc
	.record({
		columns: fc.integer({ min: 1, max: 6 }),
		costs: fc.array(fc.integer({ min: -5, max: 5 }), { minLength: 6, maxLength: 6 }),
		rows: fc.array(
			fc.record({
				factors: fc.array(fc.integer({ min: -3, max: 3 }), { minLength: 6, maxLength: 6 }),
				lower: fc.oneof(fc.constant(-Infinity), fc.integer({ min: -4, max: 2 })),
				width: fc.oneof(fc.constant(Infinity), fc.integer({ min: 0, max: 6 }))
			}),
			{ maxLength: 4 }
		)
	})
	.map(({ columns, costs, rows }) => {
		const milp = new Milp();
		for (let i = 0; i < columns; i++) milp.choice();
		const entries = (factors: number[]) => factors.slice(0, columns).map((factor, i) => [i, factor] as const);
		const bounded = rows.map(({ factors, lower, width }) => ({
			factors,
			lower,
			upper: lower === -Infinity ? (Number.isFinite(width) ? width : 0) : lower + width
		}));
		for (const { factors, lower, upper } of bounded) milp.row(entries(factors), lower, upper);
		const values: number[] = [];
		for (let bits = 0; bits < 1 << columns; bits++) {
			const sum = (factors: number[]) =>
				entries(factors).reduce((total, [i, factor]) => total + factor * ((bits >> i) & 1), 0);
			if (bounded.every(({ factors, lower, upper }) => sum(factors) >= lower && sum(factors) <= upper))
				values.push(sum(costs));
		}
		return { data: milp.data(terms(entries(costs))), best: Math.min(Infinity, ...values) };
	});

describe('a bound by weak duality', () => {
	it('is never above the best solution, whatever the multipliers are', () => {
		fc.assert(
			fc.property(
				programmes,
				fc.array(fc.double({ min: -4, max: 4, noNaN: true }), { minLength: 4, maxLength: 4 }),
				({ data, best }, multipliers) => {
					expect(safeBound(data, multipliers).bound).toBeLessThanOrEqual(best + 1e-9);
				}
			),
			{ numRuns: 2000 }
		);
	});

	it('reaches the best of a relaxation with the right multipliers, and not with wrong ones', () => {
		// Least x + 2y with x + y ≥ 1: the best is 1, by the multiplier 1.
		const milp = new Milp();
		const [x, y] = [milp.choice(), milp.choice()];
		milp.row(
			[
				[x, 1],
				[y, 1]
			],
			1,
			Infinity
		);
		const data = milp.data(
			terms([
				[x, 1],
				[y, 2]
			])
		);
		expect(safeBound(data, [1]).bound).toBeCloseTo(1, 9);
		expect(safeBound(data, [0.5]).bound).toBeCloseTo(0.5, 9);
		expect(safeBound(data, [-1]).bound).toBeCloseTo(0, 9);
		expect([...safeBound(data, [1]).reduced]).toEqual([0, 1]);
	});
});
