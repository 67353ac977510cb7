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

/** Whether a byte of a record belongs to its name. */
export const isNameByte = ({ name }: ProfileRecord, at: number): boolean =>
	name !== undefined && at >= name.offset && at < name.offset + name.length;
