import { Problem } from '../problem';
import type { Charset, Profile, ProfileRecord, ProfileText } from './schema';

const ASCII: Charset = {
	first: 32,
	characters: Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)).join('')
};

/** Shown for a byte that stands for no character; writing it back is refused. */
const UNKNOWN = '\u00b7';

/** Where a record holds a text, and in which characters. */
export type TextField = Pick<ProfileText, 'offset' | 'length' | 'charset' | 'fill'>;

const charsetOf = (profile: Profile, { charset }: TextField): Charset =>
	charset === 'ascii' ? ASCII : profile.charsets[charset];

/** A text of a record, trailing fill taken off. */
export function readText(profile: Profile, field: TextField, bytes: Uint8Array): string {
	const { offset, length, fill } = field;
	const { first, characters } = charsetOf(profile, field);
	let text = '';
	for (let i = offset; i < offset + length; i++) text += characters[bytes[i] - first] ?? UNKNOWN;
	let end = text.length;
	while (end > 0 && text[end - 1] === fill) end--;
	return text.slice(0, end);
}

/** The name in a record; null where records of this kind have none. */
export const readName = (profile: Profile, record: ProfileRecord, bytes: Uint8Array): string | null =>
	record.name ? readText(profile, record.name, bytes) : null;

/**
 * A copy of the record with another text, filled up to the field's length.
 * @throws Problem `name.too-long`, `name.character`
 */
export function writeText(profile: Profile, field: TextField, bytes: Uint8Array, text: string): Uint8Array {
	const copy = bytes.slice();
	putText(profile, field, copy, text);
	return copy;
}

/**
 * Writes a text into a record that is being made.
 * @throws Problem as {@link writeText}
 */
export function putText(profile: Profile, field: TextField, bytes: Uint8Array, text: string): void {
	const { offset, length, fill } = field;
	const { first, characters } = charsetOf(profile, field);
	const signs = Array.from(text);
	if (signs.length > length)
		throw new Problem(
			'name.too-long',
			`“${text}” has ${signs.length} characters; the display holds ${length}.`,
			`Shorten it by ${signs.length - length}.`
		);
	const written = new Uint8Array(length);
	for (let i = 0; i < length; i++) {
		const index = characters.indexOf(signs[i] ?? fill);
		if (index < 0)
			throw new Problem(
				'name.character',
				`The ${profile.model} cannot show “${signs[i]}”.`,
				`It knows: ${characters}`
			);
		written[i] = first + index;
	}
	bytes.set(written, offset);
}

/**
 * A copy of the record with another name.
 * @throws Problem as {@link writeText}, `name.none`
 */
export function writeName(
	profile: Profile,
	record: ProfileRecord,
	bytes: Uint8Array,
	name: string
): Uint8Array {
	if (!record.name)
		throw new Problem('name.none', 'This memory holds no name.', 'Only its settings can be changed.');
	return writeText(profile, record.name, bytes, name);
}

/** As much of a text as a field takes: characters that it does not know are left out. */
export function fittingText(profile: Profile, field: TextField, text: string): string {
	const { characters } = charsetOf(profile, field);
	return Array.from(text)
		.filter((sign) => characters.includes(sign))
		.slice(0, field.length)
		.join('')
		.trimEnd();
}
