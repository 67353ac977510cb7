import type { TextField } from './charset';
import { fieldBytes } from './field';
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
	for (const parameter of record.parameters)
		for (const { at, mask: own } of fieldBytes(parameter)) mask[at] |= own;
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
