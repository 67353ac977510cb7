import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../midi';
import {
	CHECKSUMS,
	CHECKSUM_IDS,
	PACKINGS,
	PACKING_IDS,
	identityReply,
	identityRequest,
	readIdentityReply,
	type ChecksumId,
	type PackingId
} from '.';

/**
 * Answers worked out by hand from the definitions, written as bytes: what packs and what unpacks could be wrong in the
 * same way and still agree with each other, and the simulated devices use the same code.
 */
const PACKED: [PackingId, memory: string, wire: string][] = [
	['plain', '00 01 7f', '00 01 7f'],
	// Top bits 1, 0, 1: bits 0 and 2, or bits 6 and 4 counted from above.
	['7in8-first-low', '80 01 ff', '05 00 01 7f'],
	['7in8-first-high', '80 01 ff', '50 00 01 7f'],
	['7in8-last-low', '80 01 ff', '00 01 7f 05'],
	['7in8-last-high', '80 01 ff', '00 01 7f 50'],
	// A whole group of seven, all top bits set, and one byte of the next.
	['7in8-first-low', '81 82 83 84 85 86 87 88', '7f 01 02 03 04 05 06 07 01 08'],
	['7in8-first-high', '81 82 83 84 85 86 87 88', '7f 01 02 03 04 05 06 07 40 08'],
	['7in8-last-low', '81 02 03 04 05 06 87', '01 02 03 04 05 06 07 41'],
	['7in8-last-high', '81 02 03 04 05 06 07', '01 02 03 04 05 06 07 40'],
	['nibbles-high-first', 'a5 0f', '0a 05 00 0f'],
	['nibbles-low-first', 'a5 0f', '05 0a 0f 00'],
	// 0x1234 = 36 × 128 + 52.
	['pairs-14-high-first', '12 34', '24 34'],
	['pairs-14-low-first', '12 34', '34 24'],
	['pairs-14-high-first', '3f ff 00 80', '7f 7f 01 00']
];

describe('packings, by hand', () => {
	it.each(PACKED)('%s: %s travels as %s', (id, memory, wire) => {
		expect(toHex(PACKINGS[id].pack(fromHex(memory)), ' ')).toBe(wire);
		expect(toHex(PACKINGS[id].unpack(fromHex(wire)), ' ')).toBe(memory);
	});

	it('each has an answer', () => {
		expect(new Set(PACKED.map(([id]) => id))).toEqual(new Set(PACKING_IDS));
	});
});

const SUMMED: [ChecksumId, data: string, sum: string][] = [
	// 10 + 20 + 7f + 01 = b0 hexadecimal = 1 × 128 + 48.
	['sum-7', '10 20 7f 01', '30'],
	['negated-sum-7', '10 20 7f 01', '50'],
	['xor-7', '10 20 7f 01', '4e'],
	['ones-complement-7', '10 20 7f 01', '4f'],
	['sum-14', '10 20 7f 01', '01 30'],
	// A sum of exactly 128, and of nothing.
	['sum-7', '40 40', '00'],
	['negated-sum-7', '40 40', '00'],
	['ones-complement-7', '40 40', '7f'],
	['sum-14', '40 40', '01 00'],
	['xor-7', '40 40', '00'],
	['negated-sum-7', '01', '7f']
];

describe('checksums, by hand', () => {
	it.each(SUMMED)('%s of %s is %s', (id, data, sum) => {
		expect(toHex(Uint8Array.from(CHECKSUMS[id].of(fromHex(data))), ' ')).toBe(sum);
	});

	it('each has an answer', () => {
		expect(new Set(SUMMED.map(([id]) => id))).toEqual(new Set(CHECKSUM_IDS));
	});
});

describe('identity, by hand (MIDI 1.0, “Inquiry message”)', () => {
	it('is asked and answered in these bytes', () => {
		expect(toHex(identityRequest(3), ' ')).toBe('f0 7e 03 06 01 f7');
		expect(toHex(identityRequest(), ' ')).toBe('f0 7e 7f 06 01 f7');
		const short = {
			deviceId: 3,
			manufacturer: fromHex('7d'),
			family: fromHex('21 00'),
			member: fromHex('02 00'),
			version: fromHex('01 04 00 00')
		};
		const wire = 'f0 7e 03 06 02 7d 21 00 02 00 01 04 00 00 f7';
		expect(toHex(identityReply(short), ' ')).toBe(wire);
		expect(readIdentityReply(fromHex(wire))).toEqual(short);
		// A maker with an ID of three bytes.
		const long = 'f0 7e 10 06 02 00 20 7d 01 00 02 00 09 08 07 06 f7';
		expect(readIdentityReply(fromHex(long))).toMatchObject({
			deviceId: 0x10,
			manufacturer: fromHex('00 20 7d'),
			version: fromHex('09 08 07 06')
		});
		expect(readIdentityReply(fromHex(long.replace(' f7', ' 00 f7')))).toBeNull();
	});
});
