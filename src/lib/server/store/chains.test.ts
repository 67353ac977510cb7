import { deflateRawSync } from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { between, seededRandom } from '../../core/bench';
import { FORM, build, over, whole, type Kept } from './chains';

const row = (id: number, kept: Omit<Kept, 'id' | 'hash'>): Kept => ({ id, hash: Buffer.alloc(32), ...kept });
const rows = (...list: Kept[]) => new Map(list.map((each) => [each.id, each]));
const noise = (size: number, seed: number): Uint8Array => {
	const random = seededRandom(seed);
	return Uint8Array.from({ length: size }, () => between(random, 0, 127));
};

describe('a content as a row', () => {
	it('is built again from a row by itself, and from one over a base', () => {
		fc.assert(
			fc.property(
				fc.uint8Array({ minLength: 1, maxLength: 600 }),
				fc.array(fc.tuple(fc.nat(), fc.nat({ max: 255 })), { maxLength: 80 }),
				(base, edits) => {
					const content = base.slice();
					for (const [at, value] of edits) content[at % content.length] = value;
					const first = row(1, whole(base));
					const second = row(2, over({ id: 1, bytes: base }, 1, content));
					expect(build(rows(first, second), 1, new Map())).toEqual(base);
					expect(build(rows(first, second), 2, new Map())).toEqual(content);
				}
			),
			{ numRuns: 400 }
		);
	});

	it('stands by itself where it has no base, another length, or nothing in common', () => {
		const [a, b] = [noise(500, 3), noise(500, 7)];
		expect(over(null, 4, a)).toEqual(whole(a));
		expect(over({ id: 1, bytes: a.subarray(1) }, 4, a)).toEqual(whole(a));
		expect(over({ id: 1, bytes: a }, 4, b)).toMatchObject({ base: null, place: 0 });
	});

	it('keeps its place in the chain where it builds on something', () => {
		const a = noise(500, 3);
		const b = a.slice();
		b[9] ^= 1;
		expect(over({ id: 8, bytes: a }, 5, b)).toMatchObject({ form: FORM.difference, base: 8, place: 5 });
	});

	it('packs many changes, and leaves few as they are', () => {
		const a = new Uint8Array(4000);
		const b = a.slice();
		for (let i = 0; i < 4000; i += 40) b[i] = 5;
		expect(over({ id: 1, bytes: a }, 1, b).form).toBe(FORM.differencePacked);
		b.fill(0);
		b[3] = 1;
		expect(over({ id: 1, bytes: a }, 1, b).form).toBe(FORM.difference);
	});

	it('as an older app wrote it is read too', () => {
		const a = noise(300, 5);
		const b = a.slice();
		b[100] ^= 0x55;
		const xor = a.map((byte, i) => byte ^ b[i]);
		const old = row(2, { form: FORM.xorPacked, base: 1, place: 1, data: deflateRawSync(xor) });
		expect(build(rows(row(1, whole(a)), old), 2, new Map())).toEqual(b);
		const short = row(2, { form: FORM.xorPacked, base: 1, place: 1, data: deflateRawSync(xor.subarray(1)) });
		expect(() => build(rows(row(1, whole(a)), short), 2, new Map())).toThrow('another length');
	});

	it('is built from what is built already, without touching it', () => {
		const a = noise(300, 5);
		const b = a.slice();
		b[100] ^= 0x55;
		const second = row(2, over({ id: 1, bytes: a }, 1, b));
		const known = new Map([[1, a.slice()]]);
		// The base is not even among the rows.
		expect(build(rows(second), 2, known)).toEqual(b);
		expect(known.get(1)).toEqual(a);
		expect(known.get(2)).toEqual(b);
	});

	it.each([
		['not there', rows(), 'it is not there'],
		[
			'over what is not there',
			rows(row(1, { form: FORM.difference, base: 9, place: 1, data: Buffer.alloc(0) })),
			'what it builds on is not there'
		],
		[
			'over nothing',
			rows(row(1, { form: FORM.difference, base: null, place: 1, data: Buffer.alloc(0) })),
			'builds on nothing'
		],
		[
			'over itself',
			rows(row(1, { form: FORM.difference, base: 1, place: 1, data: Buffer.alloc(0) })),
			'builds on nothing'
		]
	])('%s is refused', (_, list, says) => {
		expect(() => build(list, 1, new Map())).toThrow(says);
	});
});
