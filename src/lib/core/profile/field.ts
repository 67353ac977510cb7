import type { ProfileParameter } from './schema';

/** The bits that one byte of a record holds of a value. */
export interface FieldByte {
	/** Byte in the record. */
	at: number;
	/** Which bits of it. */
	mask: number;
	/** The lowest of them in the byte, and in the value. */
	shift: number;
	place: number;
}

/** Where a value stands: as much of the profile's parameter as says so. */
export type Field = Pick<ProfileParameter, 'offset' | 'bit' | 'bits' | 'order' | 'digits'>;

const known = new WeakMap<Field, FieldByte[]>();

/** Bytes that a value reaches over. */
export const fieldSpan = ({ bit, bits, digits }: Field): number =>
	digits === undefined ? Math.ceil((bit + bits) / 8) : Math.ceil(bits / digits);

/** The bytes that hold a value, the lowest bits first. */
export function fieldBytes(field: Field): FieldByte[] {
	let bytes = known.get(field);
	if (bytes) return bytes;
	const { offset, bit, bits, order, digits } = field;
	const count = fieldSpan(field);
	bytes = Array.from({ length: count }, (_, i): FieldByte => {
		// Where bytes are filled up, only the lowest begins at `bit`; where each holds so many digits, all do.
		const place = digits === undefined ? Math.max(0, 8 * i - bit) : digits * i;
		const shift = digits !== undefined || i === 0 ? bit : 0;
		const width = Math.min(digits ?? 8 - shift, bits - place);
		return {
			at: order === 'high-first' ? offset + count - 1 - i : offset + i,
			mask: (2 ** width - 1) << shift,
			shift,
			place
		};
	});
	known.set(field, bytes);
	return bytes;
}

/** The number that stands there. */
export function readField(field: Field, bytes: Uint8Array): number {
	let value = 0;
	for (const { at, mask, shift, place } of fieldBytes(field))
		value += ((bytes[at] & mask) >> shift) * 2 ** place;
	return value;
}

/** Puts a number there; no other bit changes. */
export function writeField(field: Field, bytes: Uint8Array, value: number): void {
	for (const { at, mask, shift, place } of fieldBytes(field))
		bytes[at] = (bytes[at] & ~mask) | ((Math.floor(value / 2 ** place) << shift) & mask);
}
