import type { TextField } from './charset';
import type { ProfileRecord } from './schema';

const masks = new WeakMap<ProfileRecord, Uint8Array>();

/**
 * The bits of a record that a parameter reads, as a mask for each byte. All others, those of the name aside, are content
 * that nobody has described: they are never dropped and never called the same.
 */
export function claimedBits(record: ProfileRecord): Uint8Array {
	let mask = masks.get(record);
	if (mask) return mask;
	mask = new Uint8Array(record.size);
	for (const { offset, bit, bits, order } of record.parameters) {
		const count = Math.ceil((bit + bits) / 8);
		for (let at = bit; at < bit + bits; at++) {
			// Bit 0 is the lowest of the field; its byte comes last where the high byte is first.
			const byte = order === 'high-first' ? offset + count - 1 - (at >> 3) : offset + (at >> 3);
			mask[byte] |= 1 << (at & 7);
		}
	}
	masks.set(record, mask);
	return mask;
}

/** What of a record is text: its name, where it has one, and the others. */
export const textFields = ({ name, texts }: ProfileRecord): TextField[] => [
	...(name ? [name] : []),
	...texts
];

/** Whether a byte of a record belongs to a text. */
export const isTextByte = ({ offset, length }: TextField, at: number): boolean =>
	at >= offset && at < offset + length;
