/** Characters that a display can show. Adding one is adding an entry. */
export const DISPLAY_CHARSETS = {
	ascii: { title: 'printable ASCII', allows: (character: string) => character >= ' ' && character <= '~' },
	upper: {
		title: 'capitals, digits, space and + - . / #',
		allows: (character: string) => /[A-Z0-9 +\-./#]/.test(character)
	}
} as const;
export type DisplayCharset = keyof typeof DISPLAY_CHARSETS;
export const DISPLAY_CHARSET_IDS = Object.keys(DISPLAY_CHARSETS) as [DisplayCharset, ...DisplayCharset[]];

/** Letters that do not come apart into a plain one and an accent. */
const SPELT: Record<string, string> = {
	ß: 'ss',
	æ: 'ae',
	Æ: 'AE',
	ø: 'o',
	Ø: 'O',
	œ: 'oe',
	Œ: 'OE',
	ł: 'l',
	Ł: 'L',
	đ: 'd',
	Đ: 'D',
	'–': '-',
	'—': '-',
	'’': "'",
	'×': 'x',
	'°': ' '
};

/**
 * A name in the characters that a display has: accents are taken off, letters are spelt, capitals are used where there
 * are only these, anything else becomes a space; spaces at the ends go, and several become one.
 */
export function spell(name: string, charset: DisplayCharset): string {
	const plain = [...name]
		.map((character) => SPELT[character] ?? character.normalize('NFKD').replace(/\p{M}/gu, ''))
		.join('');
	const cased = charset === 'upper' ? plain.toUpperCase() : plain;
	return [...cased]
		.map((character) => (DISPLAY_CHARSETS[charset].allows(character) ? character : ' '))
		.join('')
		.replace(/ +/g, ' ')
		.trim();
}
