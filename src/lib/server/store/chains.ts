import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { applyDifference, difference } from '../../core/drawer';
import { hashOf } from '../hash';
import { hashText } from './hashes';

/** How a content is kept: as it is, packed, or as what differs from another one. */
export const FORM = { plain: 0, packed: 1, xorPacked: 2, difference: 3, differencePacked: 4 } as const;
export type Form = (typeof FORM)[keyof typeof FORM];

/** A content as it is kept; `base` is the one that it builds on. */
export interface Kept {
	id: number;
	hash: Buffer;
	form: Form;
	base: number | null;
	/** How far along its chain it is: 0 is kept whole. */
	place: number;
	data: Buffer;
}

/** A difference pays when it is this much smaller than the content. */
const PAYS = 0.25;

const inflated = (data: Buffer): Uint8Array => inflateRawSync(data);

/**
 * The content of a row, built up from the whole content at the root of its chain.
 * @param known contents that were built already, by id; what is built is added
 * @throws Error, RangeError where a row is damaged or not there
 */
export function build(
	rows: ReadonlyMap<number, Kept>,
	id: number,
	known: Map<number, Uint8Array>
): Uint8Array {
	const steps: Kept[] = [];
	let bytes: Uint8Array | null = null;
	for (let at: number | null = id; bytes === null;) {
		const found = known.get(at);
		if (found) {
			bytes = Uint8Array.from(found);
			break;
		}
		const row = rows.get(at);
		if (!row) throw new Error(at === id ? 'it is not there' : 'what it builds on is not there');
		if (row.form === FORM.plain) bytes = Uint8Array.from(row.data);
		else if (row.form === FORM.packed) bytes = Uint8Array.from(inflated(row.data));
		else {
			steps.push(row);
			// A ring can only come of damage.
			if (row.base === null || steps.length > rows.size) throw new Error('it builds on nothing');
			at = row.base;
		}
	}
	for (const { form, data } of steps.reverse()) {
		if (form === FORM.difference) applyDifference(bytes, data);
		else if (form === FORM.differencePacked) applyDifference(bytes, inflated(data));
		else {
			const other = inflated(data);
			if (other.length !== bytes.length) throw new RangeError('what it builds on has another length');
			for (let i = 0; i < bytes.length; i++) bytes[i] ^= other[i];
		}
	}
	known.set(id, bytes);
	return bytes;
}

/** The content of a row, or null where it is damaged: it cannot be built, or does not match its name. */
export function wholeOrNull(
	rows: ReadonlyMap<number, Kept>,
	id: number,
	known: Map<number, Uint8Array>
): Uint8Array | null {
	try {
		const bytes = build(rows, id, known);
		return hashOf(bytes) === hashText(rows.get(id)!.hash) ? bytes : null;
	} catch {
		return null;
	}
}

type Fresh = Pick<Kept, 'form' | 'base' | 'place' | 'data'>;

/** A content by itself, in the least room. */
export function whole(bytes: Uint8Array): Fresh {
	const packed = deflateRawSync(bytes);
	return packed.length < bytes.length
		? { form: FORM.packed, base: null, place: 0, data: packed }
		: { form: FORM.plain, base: null, place: 0, data: Buffer.from(bytes) };
}

/** A content as what differs from its base, where that pays; else by itself. */
export function over(
	base: { id: number; bytes: Uint8Array } | null,
	place: number,
	bytes: Uint8Array
): Fresh {
	if (base?.bytes.length !== bytes.length) return whole(bytes);
	const changes = difference(base.bytes, bytes);
	// Few short stretches only grow by being packed.
	const packed = changes.length > 64 ? deflateRawSync(changes) : null;
	const [form, data] =
		packed && packed.length < changes.length
			? [FORM.differencePacked, packed]
			: [FORM.difference, Buffer.from(changes)];
	return data.length < bytes.length * PAYS ? { form, base: base.id, place, data } : whole(bytes);
}
