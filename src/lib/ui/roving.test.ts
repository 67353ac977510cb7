import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { neighbour, type Spot } from './roving';

/** Rows of things, the last one perhaps shorter; heights of labels wobble a little. */
const sheet = (columns: number, count: number, wobble = 0): Spot[] =>
	Array.from({ length: count }, (_, i) => ({
		x: (i % columns) * 100,
		y: Math.floor(i / columns) * 40 + ((i * 7) % 3) * wobble
	}));

describe('the arrow keys', () => {
	it('walk a sheet by its rows, whatever its width', () => {
		fc.assert(
			fc.property(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 2, max: 60 }), (columns, count) => {
				const spots = sheet(Math.min(columns, count), count, 1);
				const row = Math.min(columns, count);
				for (let at = 0; at < count; at++) {
					expect(neighbour(spots, at, 'ArrowRight')).toBe(at + 1 < count ? at + 1 : null);
					expect(neighbour(spots, at, 'ArrowLeft')).toBe(at > 0 ? at - 1 : null);
					expect(neighbour(spots, at, 'ArrowUp')).toBe(at >= row ? at - row : null);
					// The last row may end before the column: then its nearest, its last, is the next.
					const below = Math.floor(at / row) < Math.floor((count - 1) / row);
					expect(neighbour(spots, at, 'ArrowDown')).toBe(below ? Math.min(at + row, count - 1) : null);
				}
			})
		);
	});

	it('walk a list up and down, and leave left and right to others', () => {
		const list = sheet(1, 5);
		expect(neighbour(list, 1, 'ArrowDown')).toBe(2);
		expect(neighbour(list, 0, 'ArrowUp')).toBeNull();
		expect(neighbour(list, 1, 'ArrowLeft')).toBeNull();
		expect(neighbour(list, 1, 'ArrowRight')).toBeNull();
		expect([neighbour(list, 3, 'Home'), neighbour(list, 3, 'End')]).toEqual([0, 4]);
		expect([neighbour(list, 0, 'Home'), neighbour(list, 4, 'End'), neighbour(list, 2, 'x')]).toEqual([
			null,
			null,
			null
		]);
	});

	it('lead to the nearest where things lie freely, and nowhere from what is not there', () => {
		const free = [
			{ x: 0, y: 0 },
			{ x: 300, y: 10 },
			{ x: 20, y: 90 },
			{ x: 310, y: 95 }
		];
		expect(neighbour(free, 0, 'ArrowDown')).toBe(1);
		expect(neighbour(free, 3, 'ArrowUp')).toBe(1);
		expect(neighbour(free, 9, 'ArrowUp')).toBeNull();
	});
});
