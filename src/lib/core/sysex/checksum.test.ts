import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CHECKSUMS, checksumBy, type ChecksumRule } from '.';

const text = new TextEncoder().encode('123456789');
/** What stands on the wire, read back by hand. */
const value = (rule: ChecksumRule, data = text): number =>
	checksumBy(rule)
		.of(data)
		.reduce((all, part) => all * (rule.carried === 'nibbles' ? 16 : 128) + part, 0);

describe('a CRC-16 of “123456789”', () => {
	it.each([
		['polynomial 1021, from FFFF', { by: 'crc-16', start: 0xffff }, 0x29b1],
		['polynomial 1021, from 0', { by: 'crc-16' }, 0x31c3],
		['polynomial 1021, reflected', { by: 'crc-16', reflected: true }, 0x2189],
		['polynomial 8005, reflected', { by: 'crc-16', polynomial: 0x8005, reflected: true }, 0xbb3d],
		[
			'polynomial 8005, reflected, from FFFF',
			{ by: 'crc-16', polynomial: 0x8005, reflected: true, start: 0xffff },
			0x4b37
		],
		['polynomial 1021, from FFFF, turned over', { by: 'crc-16', start: 0xffff, last: 0xffff }, 0xd64e]
	] as [string, ChecksumRule, number][])('with %s is the published one', (_, rule, published) => {
		expect(value(rule)).toBe(published);
		expect(value({ ...rule, carried: 'nibbles' })).toBe(published);
	});
});

it('sums, XORs and complements are what arithmetic by hand says, for any bytes', () => {
	fc.assert(
		fc.property(fc.uint8Array({ maxLength: 300 }), fc.nat(127), (data, start) => {
			const total = [...data].reduce((all, byte) => all + byte, start);
			expect(value({ by: 'sum', start }, data)).toBe(total % 128);
			expect(value({ by: 'sum', bits: 16, start }, data)).toBe(total % 65536);
			expect((value({ by: 'sum', bits: 8, complement: 'twos', start }, data) + total) % 256).toBe(0);
			expect((value({ by: 'sum', bits: 14, complement: 'ones', start }, data) + total + 1) % 16384).toBe(0);
			expect(value({ by: 'xor', bits: 8, carried: 'nibbles', start }, data)).toBe(
				[...data].reduce((all, byte) => all ^ byte, start)
			);
		})
	);
});

it('travels in as many bytes as it needs, none above 127, low first where that is said', () => {
	fc.assert(
		fc.property(fc.uint8Array({ maxLength: 50 }), (data) => {
			const high = checksumBy({ by: 'crc-16' }).of(data);
			expect(high).toHaveLength(3);
			expect(Math.max(...high)).toBeLessThan(128);
			expect(checksumBy({ by: 'crc-16', order: 'low-first' }).of(data)).toEqual([...high].reverse());
		})
	);
	expect(checksumBy({ by: 'crc-16', carried: 'nibbles' }).width).toBe(4);
	expect(CHECKSUMS['sum-14'].width).toBe(2);
});
