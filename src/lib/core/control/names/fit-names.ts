import { Problem } from '../../problem';
import { assign, provenBy } from './assign';
import { spell, type DisplayCharset } from './charset';
import { COST, costsOf, digitsOf, lettersOf } from './cost';
import { first, marked, sameInTheEye, shorter, type ShortName } from './shorter';

export interface FittedNames {
	names: { name: string; short: string; cost: number }[];
	/** The sum of all costs. */
	cost: number;
	/** It was checked that no other names that keep to the rules cost less (by prices, see `provenBy`). */
	proved: boolean;
}

/** Names whose digits tell them from another: all that have the same letters as another and other digits. */
function tellingDigits(spelt: readonly string[]): boolean[] {
	const digits = new Map<string, Set<string>>();
	for (const name of spelt) {
		const letters = lettersOf(name);
		digits.set(letters, (digits.get(letters) ?? new Set()).add(digitsOf(name)));
	}
	return spelt.map((name) => digits.get(lettersOf(name))!.size > 1);
}

/**
 * Short names for a page of controls: each at most `characters` long, only from the display's characters, no two alike,
 * and together as readable as can be (least sum of costs, see `docs/guides/control.md`). The cheapest `n` ways to shorten
 * each of `n` names are enough to look at: whoever took a dearer one could take one of these that nobody has.
 * @throws Problem `names.empty`, `names.room`, `names.digits`, `names.crowded`
 */
export function fitNames(
	names: readonly string[],
	characters: number,
	charset: DisplayCharset = 'ascii'
): FittedNames {
	if (!Number.isInteger(characters) || characters < 1 || characters > 64)
		throw new Problem('names.room', 'A display has from 1 to 64 characters for a name.', '');
	const spelt = names.map((name) => spell(name, charset));
	const empty = spelt.findIndex((name) => name === '');
	if (empty >= 0)
		throw new Problem(
			'names.empty',
			`Name ${empty + 1}, “${names[empty]}”, has no character that this display can show.`,
			'Write it in letters or digits.',
			{ at: empty }
		);
	const telling = tellingDigits(spelt);
	const columns = new Map<string, number>();
	const shown: ShortName[][] = [];
	const rows = spelt.map((name, i) => {
		if (telling[i] && digitsOf(name).length > characters)
			throw new Problem(
				'names.digits',
				`“${names[i]}” is told from another name by ${digitsOf(name).length} digits, and there is room for ${characters}.`,
				'Give it a name with fewer digits.',
				{ at: i }
			);
		const several = digitsOf(name) === '' && spelt.filter((other) => other === name).length > 1;
		const ways = cheapest(
			name,
			costsOf(name, telling[i]),
			characters,
			several ? COST.number : COST.mark,
			names.length
		);
		shown.push(ways);
		return new Map(
			ways.map(({ name: short, cost }) => {
				const key = sameInTheEye(short);
				if (!columns.has(key)) columns.set(key, columns.size);
				return [columns.get(key)!, cost] as const;
			})
		);
	});
	const found = assign(rows);
	if ('crowded' in found)
		throw new Problem(
			'names.crowded',
			`These cannot be told apart in ${characters} characters: ${found.crowded.map((i) => `“${names[i]}”`).join(', ')}.`,
			'Give one of them another name, or put it on another page.',
			{ at: found.crowded }
		);
	const keys = [...columns.keys()];
	return {
		names: names.map((name, i) => {
			const { name: short, cost } = shown[i].find(
				(way) => sameInTheEye(way.name) === keys[found.columns[i]]
			)!;
			return { name, short, cost };
		}),
		cost: found.cost,
		proved: provenBy(rows, found)
	};
}

/** The cheapest ways to write a name, by leaving out and by marking, so many of each at most. */
function cheapest(
	name: string,
	costs: readonly number[],
	room: number,
	mark: number,
	most: number
): ShortName[] {
	const ways = new Map<string, ShortName>();
	for (const way of [...first(most, shorter(name, costs, room)), ...marked(name, costs, room, mark, most)]) {
		const key = sameInTheEye(way.name);
		const known = ways.get(key);
		if (!known || way.cost < known.cost) ways.set(key, way);
	}
	return [...ways.values()].sort((a, b) => a.cost - b.cost);
}
