import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyDifference, difference } from '.';

const content = fc.uint8Array({ minLength: 0, maxLength: 400 });
/** A content, and the same with some bytes changed. */
const edited = fc
	.tuple(content, fc.array(fc.tuple(fc.nat({ max: 399 }), fc.nat({ max: 255 })), { maxLength: 30 }))
	.map(([from, edits]): [Uint8Array, Uint8Array] => {
		const to = from.slice();
		for (const [at, value] of edits) if (at < to.length) to[at] = value;
		return [from, to];
	});
const applied = (bytes: Uint8Array, changes: Uint8Array) => {
	const copy = bytes.slice();
	applyDifference(copy, changes);
	return copy;
};

describe('the difference between two contents', () => {
	it('leads from one to the other, and back by the same way', () => {
		fc.assert(
			fc.property(edited, ([from, to]) => {
				const changes = difference(from, to);
				expect(applied(from, changes)).toEqual(to);
				expect(applied(to, changes)).toEqual(from);
			}),
			{ numRuns: 1000 }
		);
	});

	it('is empty for equal contents, and three bytes for one that differs near the beginning', () => {
		const from = new Uint8Array(40_000);
		expect(difference(from, from.slice())).toHaveLength(0);
		const to = from.slice();
		to[20] = 1;
		expect([...difference(from, to)]).toEqual([20, 1, 1]);
	});

	it('grows with what changed, not with the content', () => {
		fc.assert(
			fc.property(fc.uniqueArray(fc.nat({ max: 39_999 }), { maxLength: 60 }), (places) => {
				const to = new Uint8Array(40_000);
				for (const at of places) to[at] = 77;
				expect(difference(new Uint8Array(40_000), to).length).toBeLessThanOrEqual(5 * places.length);
			})
		);
	});

	it('reads contents wherever they lie in memory', () => {
		const room = Uint8Array.from({ length: 64 }, (_, i) => i);
		const [from, to] = [room.subarray(3, 23), room.subarray(33, 53)];
		expect(applied(from, difference(from, to))).toEqual(to.slice());
	});

	it.each([
		['of unequal lengths', () => difference(new Uint8Array(3), new Uint8Array(4))],
		['that reaches past the end', () => applied(new Uint8Array(3), Uint8Array.of(2, 2, 1, 1))],
		['that breaks off in a count', () => applied(new Uint8Array(300), Uint8Array.of(0x81))],
		['that breaks off in its bytes', () => applied(new Uint8Array(300), Uint8Array.of(0, 4, 1))]
	])('%s is refused', (_, work) => {
		expect(work).toThrow(RangeError);
	});
});
