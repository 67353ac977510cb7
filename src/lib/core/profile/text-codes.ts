import { fieldBytes, type Field, type FieldByte } from './field';
import type { ProfileText } from './schema';

/** Where a record holds a text, and in which characters. */
export type TextField = Pick<
	ProfileText,
	'offset' | 'length' | 'charset' | 'fill' | 'bitsEach' | 'order' | 'then'
>;

/** Bits of one character's code, and how they lie. */
function codesFrom({ bitsEach, order = 'high-first' }: TextField, offset: number, count: number): Field[] {
	return Array.from({ length: count }, (_, i): Field => {
		switch (bitsEach) {
			case 6: {
				// One row of bits, the highest first: a code begins where the last one ended.
				const begins = 6 * i;
				const end = (begins % 8) + 6;
				return {
					offset: offset + (begins >> 3),
					bits: 6,
					bit: end <= 8 ? 8 - end : 16 - end,
					order: 'high-first'
				};
			}
			case 16:
				return { offset: offset + 2 * i, bits: 16, bit: 0, order };
			case 'nibbles':
				return { offset: offset + 2 * i, bits: 8, bit: 0, digits: 4, order };
			case undefined:
				return { offset: offset + i, bits: 8, bit: 0, order };
		}
	});
}

const known = new WeakMap<TextField, Field[]>();

/** Where the code of each character stands, those that stand elsewhere last. */
export function textCodes(field: TextField): Field[] {
	let codes = known.get(field);
	if (codes) return codes;
	const elsewhere = field.then ?? [];
	const here = field.length - elsewhere.reduce((sum, { length }) => sum + length, 0);
	codes = [
		...codesFrom(field, field.offset, here),
		...elsewhere.flatMap(({ offset, length }) => codesFrom(field, offset, length))
	];
	known.set(field, codes);
	return codes;
}

/** The bits of a record that a text takes. */
export const textBits = (field: TextField): FieldByte[] => textCodes(field).flatMap(fieldBytes);

/** The largest code that fits. */
export const largestCode = ({ bitsEach }: TextField): number =>
	bitsEach === 6 ? 63 : bitsEach === 16 ? 65535 : 255;
