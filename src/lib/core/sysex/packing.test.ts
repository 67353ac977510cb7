import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../midi';
import { CHECKSUMS, type ChecksumId } from './checksum';
import { PACKINGS, type PackingId } from './packing';

const bytes = {
	plain: fc.uint8Array({ maxLength: 80, max: 127 }),
	pairs: fc
		.array(fc.integer({ min: 0, max: 16383 }), { maxLength: 40 })
		.map((words) => Uint8Array.from(words.flatMap((word) => [word >> 8, word & 255]))),
	any: fc.uint8Array({ maxLength: 80 })
};
const memoryFor = (id: PackingId) =>
	id === 'plain' ? bytes.plain : id.startsWith('pairs') ? bytes.pairs : bytes.any;

describe.each(Object.keys(PACKINGS) as PackingId[])('packing %s', (id) => {
	const packing = PACKINGS[id];

	it('unpacks what it packed, in the length that it announces', () => {
		fc.assert(
			fc.property(memoryFor(id), (memory) => {
				const packed = packing.pack(memory);
				expect(packed.length).toBe(packing.packedLength(memory.length));
				expect(packing.unpackedLength(packed.length)).toBe(memory.length);
				expect(packed.every((byte) => byte < 0x80)).toBe(true);
				expect(packing.unpack(packed)).toEqual(memory);
			})
		);
	});

	it('packs what it unpacked to the same bytes, or refuses', () => {
		fc.assert(
			fc.property(fc.uint8Array({ maxLength: 60 }), (packed) => {
				let memory: Uint8Array;
				try {
					memory = packing.unpack(packed);
				} catch (error) {
					expect(error).toMatchObject({ code: 'packing.invalid' });
					return;
				}
				expect(packing.pack(memory)).toEqual(packed);
			}),
			{ numRuns: 500 }
		);
	});
});

it.each([
	['7in8-first-low', '80 01 82 03', '05 00 01 02 03'],
	['7in8-first-high', '80 01 82 03', '50 00 01 02 03'],
	['7in8-last-low', '80 01 82 03', '00 01 02 03 05'],
	['7in8-last-high', '80 01 82 03', '00 01 02 03 50'],
	['nibbles-high-first', '3c ff', '03 0c 0f 0f'],
	['nibbles-low-first', '3c ff', '0c 03 0f 0f'],
	['pairs-14-high-first', '3f ff 00 81', '7f 7f 01 01'],
	['pairs-14-low-first', '01 02', '02 02']
] as [PackingId, string, string][])('%s puts %s on the wire as %s', (id, memory, wire) => {
	expect(toHex(PACKINGS[id].pack(fromHex(memory)), ' ')).toBe(wire);
});

it.each([
	['negated-sum-7', [0x4a]],
	['sum-7', [0x36]],
	['xor-7', [0x30]],
	['ones-complement-7', [0x49]],
	['sum-14', [0x01, 0x36]]
] as [ChecksumId, number[]][])('checksum %s of 41 42 33', (id, expected) => {
	expect(CHECKSUMS[id].of(fromHex('41 42 33'))).toEqual(expected);
});

it.each(Object.keys(CHECKSUMS) as ChecksumId[])('%s notices any single changed bit', (id) => {
	fc.assert(
		fc.property(
			fc.uint8Array({ minLength: 1, maxLength: 60, max: 127 }),
			fc.nat(),
			fc.integer({ min: 0, max: 6 }),
			(data, at, bit) => {
				const changed = data.slice();
				changed[at % data.length] ^= 1 << bit;
				expect(CHECKSUMS[id].of(changed)).not.toEqual(CHECKSUMS[id].of(data));
			}
		)
	);
});
