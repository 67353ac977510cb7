import { Problem } from '../problem';
import { readField, writeField } from './field';
import type { Charset, Profile, ProfileRecord } from './schema';
import { textCodes, type TextField } from './text-codes';

const ASCII: Charset = {
	first: 32,
	characters: Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)).join('')
};

/** Shown for a code that stands for no character; writing it back is refused. */
const UNKNOWN = '\u00b7';

const charsetOf = (profile: Profile, { charset }: TextField): Charset =>
	charset === 'ascii' ? ASCII : profile.charsets[charset];

type Shift = NonNullable<Charset['shifts']>[number];

/** A text of a record, trailing fill taken off. */
export function readText(profile: Profile, field: TextField, bytes: Uint8Array): string {
	const base = charsetOf(profile, field);
	let shift = null as Shift | null;
	let text = '';
	for (const place of textCodes(field)) {
		const code = readField(place, bytes);
		if (shift?.back === code) shift = null;
		else if (shift) {
			text += shift.characters[code - shift.first] ?? UNKNOWN;
			if (shift.back === undefined) shift = null;
		} else {
			shift = base.shifts?.find((each) => each.code === code) ?? null;
			if (!shift) text += base.characters[code - base.first] ?? UNKNOWN;
		}
	}
	let end = text.length;
	while (end > 0 && text[end - 1] === field.fill) end--;
	return text.slice(0, end);
}

/** The codes of a text, with the shortest shifts; or the first sign that is in no table. */
function codesOf(base: Charset, signs: readonly string[]): number[] | string {
	const codes: number[] = [];
	let shift = null as Shift | null;
	for (const sign of signs) {
		if (shift && !shift.characters.includes(sign)) {
			codes.push(shift.back!);
			shift = null;
		}
		if (shift) codes.push(shift.first + shift.characters.indexOf(sign));
		else if (base.characters.includes(sign)) codes.push(base.first + base.characters.indexOf(sign));
		else {
			const found: Shift | undefined = base.shifts?.find(({ characters }) => characters.includes(sign));
			if (!found) return sign;
			codes.push(found.code, found.first + found.characters.indexOf(sign));
			if (found.back !== undefined) shift = found;
		}
	}
	// What fills the rest is meant in the first table.
	if (shift) codes.push(shift.back!);
	return codes;
}

/** All signs that a text can be written with. */
const allSigns = ({ characters, shifts = [] }: Charset): string =>
	[characters, ...shifts.map((shift) => shift.characters)].join('');

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
	const { length, fill } = field;
	const base = charsetOf(profile, field);
	const signs = Array.from(text);
	if (signs.length > length)
		throw new Problem(
			'name.too-long',
			`“${text}” has ${signs.length} characters; the display holds ${length}.`,
			`Shorten it by ${signs.length - length}.`
		);
	const codes = codesOf(base, signs);
	const filler = codesOf(base, [fill]);
	const stranger = [codes, filler].find((each) => typeof each === 'string');
	if (typeof codes === 'string' || typeof filler === 'string')
		throw new Problem(
			'name.character',
			`The ${profile.model} cannot show “${String(stranger)}”.`,
			`It knows: ${allSigns(base)}`
		);
	// A last shift back that nothing follows is left out.
	while (codes.length > length && base.shifts?.some(({ back }) => back === codes.at(-1))) codes.pop();
	if (codes.length > length)
		throw new Problem(
			'name.too-long',
			`“${text}” takes ${codes.length} places, the changes between its sets of characters counted; there are ${length}.`,
			'Shorten it, or use fewer kinds of characters.'
		);
	textCodes(field).forEach((place, i) => writeField(place, bytes, codes[i] ?? filler[0]));
}

/**
 * A copy of the record with another name.
 * @throws Problem as {@link writeText}, `name.none`; `name.told` where the device describes itself: its names are its own words
 */
export function writeName(
	profile: Profile,
	record: ProfileRecord,
	bytes: Uint8Array,
	name: string
): Uint8Array {
	if (!record.name)
		throw new Problem('name.none', 'This memory holds no name.', 'Only its settings can be changed.');
	const own = profile.areas.some(({ described, record: id }) => described && profile.records[id] === record);
	if (own && readText(profile, record.name, bytes) !== name)
		throw new Problem(
			'name.told',
			`The ${profile.model} names its sounds itself; what it tells cannot be changed here.`,
			'Rename it on the instrument, then back it up.'
		);
	return writeText(profile, record.name, bytes, name);
}

/** As much of a text as a field takes: characters that it does not know are left out. */
export function fittingText(profile: Profile, field: TextField, text: string): string {
	const base = charsetOf(profile, field);
	const known = allSigns(base);
	const signs = Array.from(text).filter((sign) => known.includes(sign));
	for (let end = Math.min(signs.length, field.length); ; end--) {
		const codes = codesOf(base, signs.slice(0, end));
		const spare = typeof codes !== 'string' && base.shifts?.some(({ back }) => back === codes.at(-1)) ? 1 : 0;
		if (end === 0 || codes.length - spare <= field.length) return signs.slice(0, end).join('').trimEnd();
	}
}
