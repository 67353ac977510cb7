import { Problem } from '../problem';
import type { Charset, Profile, ProfileRecord } from './schema';

const ASCII: Charset = {
	first: 32,
	characters: Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)).join('')
};

/** Shown for a byte that stands for no character; writing it back is refused. */
const UNKNOWN = '\u00b7';

const charsetOf = (profile: Profile, record: ProfileRecord): Charset =>
	record.name && record.name.charset !== 'ascii' ? profile.charsets[record.name.charset] : ASCII;

/** The name in a record, trailing fill taken off; null where records of this kind have none. */
export function readName(profile: Profile, record: ProfileRecord, bytes: Uint8Array): string | null {
	if (!record.name) return null;
	const { offset, length, fill } = record.name;
	const { first, characters } = charsetOf(profile, record);
	let text = '';
	for (let i = offset; i < offset + length; i++) text += characters[bytes[i] - first] ?? UNKNOWN;
	let end = text.length;
	while (end > 0 && text[end - 1] === fill) end--;
	return text.slice(0, end);
}

/**
 * A copy of the record with another name, filled up to the field's length.
 * @throws Problem `name.too-long`, `name.character`, `name.none`
 */
export function writeName(
	profile: Profile,
	record: ProfileRecord,
	bytes: Uint8Array,
	name: string
): Uint8Array {
	if (!record.name)
		throw new Problem('name.none', 'This memory holds no name.', 'Only its settings can be changed.');
	const { offset, length, fill } = record.name;
	const { first, characters } = charsetOf(profile, record);
	const signs = Array.from(name);
	if (signs.length > length)
		throw new Problem(
			'name.too-long',
			`“${name}” has ${signs.length} characters; the display holds ${length}.`,
			`Shorten it by ${signs.length - length}.`
		);
	const copy = bytes.slice();
	for (let i = 0; i < length; i++) {
		const index = characters.indexOf(signs[i] ?? fill);
		if (index < 0)
			throw new Problem(
				'name.character',
				`The ${profile.model} cannot show “${signs[i]}”.`,
				`It knows: ${characters}`
			);
		copy[offset + i] = first + index;
	}
	return copy;
}
