import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { frameAll } from '../sysex';
import { fromHex, toHex } from './bytes';
import { Statements, spelledOut } from './statements';

const heard = (hex: string) => {
	const statements = new Statements();
	return frameAll(fromHex(hex)).flatMap((event) => {
		const found = event.kind === 'message' ? statements.push(event.bytes) : null;
		return found ? [toHex(found, ' ')] : [];
	});
};

describe('statements out of channel messages', () => {
	it.each([
		['a controller', 'b0 4a 40', ['b0 4a 40']],
		['a program change', 'c3 05', ['c3 05']],
		['what is played is none', '90 3c 40 80 3c 00 e0 00 40 d0 11', []],
		['a parameter by its higher half', 'b0 63 01 62 14 06 20', ['b0 63 01 62 14 06 20']],
		['and by both', 'b0 63 01 62 14 06 20 26 7f', ['b0 63 01 62 14 06 20', 'b0 63 01 62 14 06 20 26 7f']],
		['registered ones are others', 'b0 65 00 64 01 06 20', ['b0 65 00 64 01 06 20']],
		['the halves of a number in any order', 'b0 62 14 63 01 06 20', ['b0 63 01 62 14 06 20']],
		['a value with no number before it is none', 'b0 06 20', []],
		['half a number is none', 'b0 63 01 06 20', []],
		['a lower half with no higher one is none', 'b0 63 01 62 14 26 20', []],
		[
			'a new number forgets the value of the last one',
			'b0 63 01 62 14 06 20 62 15 26 7f',
			['b0 63 01 62 14 06 20']
		],
		['the other kind of number forgets the first', 'b0 63 01 62 14 65 00 06 20', []],
		['channels do not mix', 'b0 63 01 62 14 b1 06 20', []]
	])('%s', (_, hex, expected) => expect(heard(hex)).toEqual(expected));

	it('are sent with every status byte, and heard as they were', () => {
		const seven = fc.nat(127);
		const statement = fc.oneof(
			fc.tuple(seven, seven).filter(([number]) => ![6, 38, 98, 99, 100, 101].includes(number)),
			fc.tuple(fc.constant(99), seven, fc.constant(98), seven, fc.constant(6), seven)
		);
		fc.assert(
			fc.property(fc.nat(15), statement, (channel, data) => {
				const bytes = Uint8Array.of(0xb0 | channel, ...data);
				const sent = spelledOut(bytes);
				expect(sent).toHaveLength((data.length / 2) * 3);
				expect([...sent].filter((byte) => byte >= 0x80)).toHaveLength(data.length / 2);
				expect(heard(toHex(sent))).toEqual([toHex(bytes, ' ')]);
			})
		);
	});

	it('leaves exclusive messages as they are', () => {
		const bytes = fromHex('f0 7d 01 02 f7');
		expect(spelledOut(bytes)).toBe(bytes);
	});
});
