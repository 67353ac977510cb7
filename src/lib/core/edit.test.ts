import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits, valueAt } from './edit';

describe('edits', () => {
	it('change what is at a path and nothing else, and leave what was as it was', () => {
		const data = { a: [{ b: 1 }, { b: 2 }], c: 3 };
		const before = structuredClone(data);
		expect(applyEdits(data, [{ path: ['a', 1, 'b'], value: 9 }])).toEqual({ a: [{ b: 1 }, { b: 9 }], c: 3 });
		expect(applyEdits(data, [{ path: ['a', 0] }])).toEqual({ a: [{ b: 2 }], c: 3 });
		expect(applyEdits(data, [{ path: ['c'] }])).toEqual({ a: [{ b: 1 }, { b: 2 }] });
		expect(applyEdits(data, [{ path: [], value: 4 }])).toBe(4);
		expect(data).toEqual(before);
		expect(valueAt(data, ['a', 1, 'b'])).toBe(2);
	});

	it('are undone by writing what was there', () => {
		fc.assert(
			fc.property(
				fc.array(fc.array(fc.nat(), { minLength: 1 }), { minLength: 1 }),
				fc.nat(),
				fc.nat(),
				(rows, n, value) => {
					const row = n % rows.length;
					const path = [row, n % rows[row].length];
					const was = valueAt(rows, path);
					expect(
						applyEdits(rows, [
							{ path, value },
							{ path, value: was }
						])
					).toEqual(rows);
				}
			)
		);
	});
});
