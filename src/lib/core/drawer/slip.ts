import { foldName } from './search';

/** Words shorter than this are too like one another to forgive anything. */
const SHORTEST = 4;

/** Whether one word is the beginning of another, but for one letter too many, too few, another, or two in each other's place. */
export function beginsWithin(word: string, name: string): boolean {
	let at = 0;
	while (at < word.length && word[at] === name[at]) at++;
	if (at === word.length) return true;
	const rest = (from: number, nameFrom: number) => name.startsWith(word.slice(from), nameFrom);
	return (
		rest(at + 1, at + 1) ||
		rest(at + 1, at) ||
		rest(at, at + 1) ||
		(word[at] === name[at + 1] && word[at + 1] === name[at] && rest(at + 2, at + 2))
	);
}

/** Whether a name holds all words of a search but for one slip in one of them; in short words none is forgiven. */
export function nearlyNamed(name: string, words: readonly string[]): boolean {
	const own = foldName(name).split(' ');
	let slips = 0;
	return words.every((word) => {
		if (own.some((each) => each.includes(word))) return true;
		slips++;
		return slips === 1 && word.length >= SHORTEST && own.some((each) => beginsWithin(word, each));
	});
}
