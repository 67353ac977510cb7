import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Problem } from '../problem';
import {
	PROFILE_TEMPLATE,
	bitsOfTexts,
	fittingText,
	parseProfile,
	readText,
	textCodes,
	writeText,
	type Profile,
	type TextField
} from '.';

/** A profile whose records have a name that is written so. */
const withName = (name: object, charsets: object = {}): { profile: Profile; field: TextField } => {
	const profile = parseProfile({
		...PROFILE_TEMPLATE,
		version: 2,
		charsets,
		records: { program: { size: 32, name } }
	});
	return { profile, field: profile.records.program.name! };
};

const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
const six = { first: 0, characters: ` ${letters}0123456789+-*/.,:;!?()` };
const shifted = {
	first: 1,
	characters: ` ${letters}`,
	shifts: [
		{ code: 40, back: 41, first: 1, characters: 'abcdefghijklmnopqrstuvwxyz' },
		{ code: 42, first: 1, characters: '0123456789' }
	]
};
const kana = {
	first: 0x3041,
	characters: Array.from({ length: 80 }, (_, i) => String.fromCharCode(0x3041 + i)).join('')
};

const FORMS: [string, object, object, string][] = [
	['a byte each', { offset: 3, length: 10 }, {}, ' Az9~'],
	[
		'six bits each, in one row',
		{ offset: 1, length: 12, charset: 'six', bitsEach: 6 },
		{ six },
		six.characters
	],
	['a byte as two nibbles', { offset: 2, length: 8, bitsEach: 'nibbles', order: 'low-first' }, {}, ' Az9~'],
	[
		'two bytes each',
		{ offset: 4, length: 6, charset: 'kana', bitsEach: 16, fill: kana.characters[0] },
		{ kana },
		kana.characters
	],
	['split in two places', { offset: 0, length: 9, then: [{ offset: 20, length: 4 }] }, {}, ' Az9~'],
	['with shifts', { offset: 0, length: 12, charset: 'shifted' }, { shifted }, ' ABYZabyz019']
];

describe.each(FORMS)('a name with %s', (_, name, charsets, signs) => {
	const { profile, field } = withName(name, charsets);
	const any = fc
		.array(fc.constantFrom(...Array.from(signs)), { maxLength: field.length })
		.map((all) => all.join(''));

	it('comes back as it was written, and touches no bit outside its own', () => {
		fc.assert(
			fc.property(any, fc.uint8Array({ minLength: 32, maxLength: 32 }), (text, before) => {
				let after: Uint8Array;
				try {
					after = writeText(profile, field, before, text);
				} catch (error) {
					// Only changes between tables can make a text that has few enough signs too long.
					expect(error).toBeInstanceOf(Problem);
					expect((error as Problem).code).toBe('name.too-long');
					expect('shifted' in charsets).toBe(true);
					return;
				}
				const trimmed = text.slice(0, text.length - trailing(text, field.fill));
				expect(readText(profile, field, after)).toBe(trimmed);
				const own = bitsOfTexts(32, [field]);
				after.forEach((byte, i) => expect((byte ^ before[i]) & ~own[i]).toBe(0));
				expect(writeText(profile, field, after, trimmed)).toEqual(after);
			})
		);
	});

	it('fits as far as it is said to', () => {
		fc.assert(
			fc.property(any, (text) => {
				const fitting = fittingText(profile, field, `${text}\u2603`);
				expect(() => writeText(profile, field, new Uint8Array(32), fitting)).not.toThrow();
				expect(text.startsWith(fitting)).toBe(true);
			})
		);
	});

	it('has a place of its own for each character', () => {
		const bits = textCodes(field).flatMap((place) => bitPositions(place));
		expect(new Set(bits).size).toBe(bits.length);
		expect(textCodes(field)).toHaveLength(field.length);
	});
});

const trailing = (text: string, fill: string): number => {
	let count = 0;
	while (count < text.length && text[text.length - 1 - count] === fill) count++;
	return count;
};

/** Every bit of the record that a value stands in, found by writing ones there. */
function bitPositions(place: ReturnType<typeof textCodes>[number]): number[] {
	const found: number[] = [];
	bitsOf(place).forEach((byte, at) => {
		for (let bit = 0; bit < 8; bit++) if (byte & (1 << bit)) found.push(at * 8 + bit);
	});
	return found;
}
const bitsOf = ({ offset, bits, bit, order, digits }: ReturnType<typeof textCodes>[number]): Uint8Array => {
	const bytes = new Uint8Array(32);
	const each = digits ?? 8;
	const count = digits ? Math.ceil(bits / digits) : Math.ceil((bit + bits) / 8);
	for (let n = 0; n < bits; n++) {
		const up = digits ? n : n + bit;
		const index = Math.floor(up / each);
		bytes[order === 'high-first' ? offset + count - 1 - index : offset + index] |= 1 << (up % each);
	}
	return bytes;
};

it('six bits in one row lie as packed text does: four characters in three bytes, the first highest', () => {
	const { profile, field } = withName({ offset: 0, length: 4, charset: 'six', bitsEach: 6 }, { six });
	// A = 1, B = 2, C = 3, D = 4: 000001 000010 000011 000100
	expect([...writeText(profile, field, new Uint8Array(4), 'ABCD')]).toEqual([0x04, 0x20, 0xc4, 0]);
});

it('a shift holds until it is taken back, or for one character; unknown codes are no characters', () => {
	const { profile, field } = withName({ offset: 0, length: 12, charset: 'shifted' }, { shifted });
	const written = writeText(profile, field, new Uint8Array(32), 'Bob 7');
	expect([...written.subarray(0, 12)]).toEqual([3, 40, 15, 2, 41, 1, 42, 8, 1, 1, 1, 1]);
	const odd = written.slice();
	odd[0] = 99;
	expect(readText(profile, field, odd)).toBe('·ob 7');
	expect(() => writeText(profile, field, written, 'aBcDeFgH')).toThrow('changes between its sets');
	expect(() => writeText(profile, field, written, 'a_b')).toThrow('cannot show “_”');
});

it('refuses codes that do not fit, places past the record, and newer words in an older profile', () => {
	expect(() => withName({ offset: 0, length: 4, charset: 'kana' }, { kana })).toThrow('255 is the largest');
	expect(() => withName({ offset: 30, length: 4, bitsEach: 'nibbles' })).toThrow('ends at byte');
	expect(() => withName({ offset: 0, length: 4, then: [{ offset: 9, length: 4 }] })).toThrow(
		'no characters left'
	);
	expect(() =>
		parseProfile({
			...PROFILE_TEMPLATE,
			records: { program: { size: 32, name: { offset: 0, length: 4, bitsEach: 6 } } }
		})
	).toThrow('version');
});
