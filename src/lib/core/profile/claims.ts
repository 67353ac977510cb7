import { fieldBytes } from './field';
import type { ProfileRecord } from './schema';
import { textBits, type TextField } from './text-codes';

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

/** The bits of a record that these texts take, as a mask for each byte. */
export function bitsOfTexts(size: number, fields: readonly TextField[]): Uint8Array {
	const mask = new Uint8Array(size);
	for (const field of fields) for (const { at, mask: own } of textBits(field)) mask[at] |= own;
	return mask;
}
