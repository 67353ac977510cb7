import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { COMFORT, hurts, oneForAll, resolutionWords, sentRange, stepOf, suits, turnsFor } from './resolution';
import { shownOf, targetSchema, valueFor, type Target } from '../profile';

const target = (scale: object | undefined, high = 127, low = 0): Target =>
	targetSchema.parse({ id: 't', name: 'T', address: { kind: 'cc', number: 7 }, low, high, scale });
const even = (from: number, to: number, high = 127) => target({ kind: 'even', from, to }, high);

const anyTarget = fc
	.record({
		low: fc.integer({ min: 0, max: 20 }),
		span: fc.integer({ min: 1, max: 107 }),
		kind: fc.constantFrom('even', 'logarithmic', 'bipolar', 'table', 'none'),
		ends: fc.tuple(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 501, max: 9000 })),
		table: fc.array(fc.integer({ min: -99, max: 99 }), { minLength: 128, maxLength: 128 })
	})
	.map(({ low, span, kind, ends: [a, b], table }) =>
		target(
			kind === 'none'
				? undefined
				: kind === 'table'
					? { kind, shown: table.slice(0, span + 1) }
					: kind === 'bipolar'
						? { kind, from: -a, to: b }
						: { kind, from: a, to: b },
			low + span,
			low
		)
	);

describe('what is shown for what is sent', () => {
	it('is at its ends what the scale says, and what is asked for is the nearest that there is', () => {
		expect([shownOf(even(-66, 0), 0), shownOf(even(-66, 0), 127)]).toEqual([-66, 0]);
		expect(shownOf(target({ kind: 'bipolar', from: -64, to: 63 }, 126), 63)).toBe(0);
		expect(shownOf(target({ kind: 'logarithmic', from: 20, to: 20_000 }, 100), 50)).toBeCloseTo(632.46, 1);
		fc.assert(
			fc.property(anyTarget, fc.integer({ min: -200, max: 9999 }), (each, wanted) => {
				const value = valueFor(each, wanted);
				const off = (at: number) => Math.abs(shownOf(each, at) - wanted);
				expect(value).toBeGreaterThanOrEqual(each.low);
				expect(value).toBeLessThanOrEqual(each.high);
				for (let other = each.low; other <= each.high; other++)
					expect(off(other)).toBeGreaterThanOrEqual(off(value) - 1e-9);
			})
		);
	});
});

describe('resolution', () => {
	it('is coarse over a wide range and fine over a small one', () => {
		// 66 dB over 7 bits, and the same target's last 12 dB told by a list of its own.
		expect(stepOf(even(-66, 0), {})).toBeCloseTo(0.52, 2);
		expect(stepOf(even(-12, 0), {})).toBeCloseTo(0.094, 3);
		expect(stepOf(even(-6, 0), {})).toBeCloseTo(0.047, 3);
	});

	it('needs as many turns as steps ÷ (notches × acceleration)', () => {
		expect(turnsFor(900, 24, 1)).toBe(37.5);
		expect(turnsFor(64, 24, 4)).toBeCloseTo(0.667, 3);
		const [slow, quick] = suits(even(0, 899, 899), {}, 24, [1, 10]);
		expect(slow.turns).toBeCloseTo(899 / 24);
		expect([slow.fine, slow.coarse, quick.fine].map((step) => step.toFixed(6))).toEqual(
			Array(3).fill('1.000000')
		);
		expect(quick.turns).toBeCloseTo(899 / 240);
		expect(quick.coarse).toBeCloseTo(10);
	});

	it('is that of the musician’s range, not of all that there is', () => {
		expect(sentRange(even(0, 127), { from: 20, to: 10 })).toEqual([10, 20]);
		expect(suits(even(0, 127), { from: 10, to: 20 }, 20, [1])[0].turns).toBe(0.5);
		expect(stepOf(even(0, 127), { from: 10, to: 10 })).toBeNull();
	});

	it('is never wider than the range, and grows with the stride', () => {
		fc.assert(
			fc.property(anyTarget, fc.integer({ min: 1, max: 30 }), (each, stride) => {
				const widest = stepOf(each, {}, stride)!;
				const shown = Array.from({ length: each.high - each.low + 1 }, (_, i) => shownOf(each, each.low + i));
				expect(widest).toBeLessThanOrEqual(Math.max(...shown) - Math.min(...shown) + 1e-9);
				if (each.scale?.kind !== 'table')
					expect(stepOf(each, {}, stride + 1)!).toBeGreaterThanOrEqual(widest - 1e-9);
			})
		);
	});
});

describe('one acceleration for all', () => {
	it('is the one that hurts least of all that there are, and names who suffers', () => {
		const control = fc.record({
			id: fc.string({ minLength: 1, maxLength: 3 }),
			steps: fc.integer({ min: 1, max: 16383 }),
			detents: fc.integer({ min: 8, max: 60 })
		});
		fc.assert(
			fc.property(
				fc.array(control, { minLength: 1, maxLength: 8 }),
				fc.uniqueArray(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 6 }),
				(all, accelerations) => {
					const found = oneForAll(all, accelerations);
					const sum = (acceleration: number) =>
						all.reduce((total, { steps, detents }) => total + hurts(steps, detents, acceleration), 0);
					expect(found.hurts).toBeCloseTo(sum(found.acceleration));
					for (const other of accelerations) expect(sum(other)).toBeGreaterThanOrEqual(found.hurts - 1e-6);
					for (const { hurts: pain } of found.suffers) expect(pain).toBeGreaterThan(0);
				}
			)
		);
	});

	it('cannot suit 64 steps and 900 at once, and says so', () => {
		const { suffers } = oneForAll(
			[
				{ id: 'small', steps: 63, detents: 24 },
				{ id: 'large', steps: 899, detents: 24 }
			],
			[1, 2, 4, 8, 12]
		);
		expect(suffers.length).toBeGreaterThan(0);
		expect(hurts(63, 24, 1)).toBe(0);
		expect(hurts(899, 24, 1)).toBeGreaterThan(5);
		expect(COMFORT.mostTurns).toBe(4);
	});
});

describe('what is said of a step', () => {
	const level = { low: 0, high: 127, unit: 'dB', scale: { kind: 'even', from: -66, to: 0 } } as Target;

	it('is its size in the unit, and how many turns the whole takes', () => {
		expect(resolutionWords(level, {}, {})).toBe('One step is 0.52 dB at most.');
		expect(resolutionWords(level, { from: -12, to: 0 }, { detents: 20 }, 3)).toBe(
			'One step is 0.52 dB at most; all of it is 0.38 turns.'
		);
	});

	it('is nothing where there is one value or a switch', () => {
		expect(resolutionWords(level, { from: 0, to: 0 }, {})).toBe('');
		expect(resolutionWords({ ...level, switch: true }, {}, {})).toBe('');
	});
});
