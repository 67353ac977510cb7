/**
 * What it costs to leave out a character, as `docs/guides/control.md` defines it: the higher, the harder the name is to
 * read without it. The cost of a short name is the sum over what it leaves out.
 */
export const COST = {
	/** A space or a sign between words. */
	between: 1,
	/** The second of two equal letters in a row. */
	twin: 1,
	/** A vowel: second in its word, third, further on. */
	vowel: [6, 3, 2],
	/** A consonant: second in its word, third, and so on. */
	consonant: [8, 7, 6, 5, 4, 3],
	/** The first letter of a word that is not the name's first. */
	initial: 9,
	/** The first letter of the name. */
	first: 16,
	/** A digit that tells no two names apart. */
	digit: 20,
	/** A digit put at the end of a short name, and 1 more for each digit above 2. */
	mark: 40,
	/** The same where the page has a name several times, and that name has no digits. */
	number: 3
} as const;

/** Digits that tell two names apart are never left out. */
export const NEVER = Infinity;

const isLetter = (character: string): boolean => /[A-Za-z]/.test(character);
const isDigit = (character: string): boolean => /[0-9]/.test(character);
const isVowel = (character: string): boolean => /[AEIOUaeiou]/.test(character);

/** A name without its digits, spaces and signs, in small letters: names that are equal so are told apart by digits alone. */
export const lettersOf = (name: string): string => [...name].filter(isLetter).join('').toLowerCase();
export const digitsOf = (name: string): string => [...name].filter(isDigit).join('');

/**
 * What leaving out each character of a spelt name costs.
 * @param telling whether its digits tell it from another name of the page
 */
export function costsOf(name: string, telling: boolean): number[] {
	const characters = [...name];
	let inWord = 0;
	let begun = false;
	return characters.map((character, i) => {
		if (isDigit(character)) {
			inWord = 0;
			return telling ? NEVER : COST.digit;
		}
		if (!isLetter(character)) {
			inWord = 0;
			return COST.between;
		}
		inWord++;
		if (inWord === 1) {
			const cost = begun ? COST.initial : COST.first;
			begun = true;
			return cost;
		}
		if (character.toLowerCase() === characters[i - 1].toLowerCase()) return COST.twin;
		const by = isVowel(character) ? COST.vowel : COST.consonant;
		return by[Math.min(inWord - 2, by.length - 1)];
	});
}
