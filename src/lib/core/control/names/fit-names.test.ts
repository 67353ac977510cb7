import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Problem } from '../../problem';
import { assign, provenBy } from './assign';
import { fitNames, spell } from './index';
import { shorter } from './shorter';

/** The rules of the guide, written down once more and without haste: every way to leave characters out of a name. */
function everyWay(name: string, telling: boolean, room: number, several = false): Map<string, number> {
	const characters = [...name];
	const ways = new Map<string, number>();
	const wordStart = (i: number) => i === 0 || !/[a-z]/i.test(characters[i - 1]);
	const firstLetter = characters.findIndex((each) => /[a-z]/i.test(each));
	const costOf = (i: number): number => {
		const each = characters[i];
		if (/\d/.test(each)) return telling ? Infinity : 20;
		if (!/[a-z]/i.test(each)) return 1;
		if (wordStart(i)) return i === firstLetter ? 16 : 9;
		if (each.toLowerCase() === characters[i - 1].toLowerCase()) return 1;
		let place = 2;
		while (!wordStart(i - place + 1)) place++;
		return /[aeiou]/i.test(each) ? (place === 2 ? 6 : place === 3 ? 3 : 2) : Math.max(3, 10 - place);
	};
	const note = (short: string, cost: number) => {
		const key = short.toLowerCase();
		if (cost < (ways.get(key) ?? Infinity)) ways.set(key, cost);
	};
	for (let mask = 0; mask < 1 << characters.length; mask++) {
		const kept = characters.filter((_, i) => mask & (1 << i)).join('');
		if (kept === '' || /^ | $| {2}/.test(kept)) continue;
		const cost = characters.reduce((sum, _, i) => (mask & (1 << i) ? sum : sum + costOf(i)), 0);
		if (cost === Infinity) continue;
		if (kept.length <= room) note(kept, cost);
		if (kept.length < room)
			for (let mark = 2; mark <= 9; mark++) note(`${kept}${mark}`, cost + (several ? 3 : 40) + mark - 2);
	}
	return ways;
}

/** The least sum over all ways to give each name one that nobody else has. */
function least(rows: readonly ReadonlyMap<unknown, number>[]): number {
	const taken = new Set<unknown>();
	const floor = rows.map((row) => Math.min(...row.values()));
	let best = Infinity;
	const go = (at: number, cost: number) => {
		if (cost + floor.slice(at).reduce((sum, each) => sum + each, 0) >= best) return;
		if (at === rows.length) {
			best = cost;
			return;
		}
		for (const [key, more] of [...rows[at]].sort((a, b) => a[1] - b[1])) {
			if (cost + more >= best) break;
			if (taken.has(key)) continue;
			taken.add(key);
			go(at + 1, cost + more);
			taken.delete(key);
		}
	};
	go(0, 0);
	return best;
}

const word = fc.constantFrom('Cut', 'Osc', 'Res', 'Mix', 'A', 'Ee', 'LFO', '1', '2', '12');
const names = fc.array(
	fc.array(word, { minLength: 1, maxLength: 3 }).map((words) => words.join(' ').slice(0, 9).trim()),
	{ minLength: 1, maxLength: 5 }
);

describe('short names', () => {
	it('cost no more than the best of all that there are, and keep to every rule', () => {
		fc.assert(
			fc.property(names, fc.integer({ min: 1, max: 6 }), (list, room) => {
				const letters = (name: string) => name.replace(/[^a-z]/gi, '').toLowerCase();
				const digits = (name: string) => name.replace(/\D/g, '');
				const telling = list.map((name) =>
					list.some((other) => letters(other) === letters(name) && digits(other) !== digits(name))
				);
				const several = list.map(
					(name) => !/\d/.test(name) && list.filter((other) => other === name).length > 1
				);
				const best = least(list.map((name, i) => everyWay(name, telling[i], room, several[i])));
				let fitted;
				try {
					fitted = fitNames(list, room);
				} catch (problem) {
					expect((problem as Problem).code).toMatch(/^names\.(digits|crowded)$/);
					expect(best).toBe(Infinity);
					return;
				}
				expect(fitted.cost).toBe(best);
				expect(fitted.proved).toBe(true);
				expect(new Set(fitted.names.map(({ short }) => short.toLowerCase())).size).toBe(list.length);
				for (const [i, { short, cost }] of fitted.names.entries()) {
					expect(short.length).toBeLessThanOrEqual(room);
					expect(everyWay(list[i], telling[i], room, several[i]).get(short.toLowerCase())).toBe(cost);
					if (telling[i] && digits(list[i]) !== '' && cost < 40) expect(digits(short)).toBe(digits(list[i]));
				}
			}),
			{ numRuns: 500 }
		);
	});

	it('leaves vowels before consonants, and keeps beginnings', () => {
		const { names: fitted } = fitNames(
			['Filter Cutoff', 'Filter Resonance', 'Osc 1 Level', 'Osc 2 Level'],
			6
		);
		expect(fitted.map(({ short }) => short)).toEqual(['FilCut', 'FilRes', 'Osc1Lv', 'Osc2Lv']);
	});

	it('keeps a name that fits as it is, at no cost', () => {
		expect(fitNames(['Cutoff', 'Drive'], 6).names).toEqual([
			{ name: 'Cutoff', short: 'Cutoff', cost: 0 },
			{ name: 'Drive', short: 'Drive', cost: 0 }
		]);
	});

	it('numbers names that are the same', () => {
		expect(
			fitNames(['Pan', 'Pan', 'Pan'], 4)
				.names.map(({ short }) => short)
				.sort()
		).toEqual(['Pan', 'Pan2', 'Pan3']);
	});

	it('says which names cannot be told apart', () => {
		expect(() => fitNames(['A', 'A'], 1)).toThrow(/“A”, “A”/);
		expect(() => fitNames(['Osc 12', 'Osc 34'], 1)).toThrow(/2 digits, and there is room for 1/);
		expect(() => fitNames(['!!', '…'], 4, 'upper')).toThrow(/Name 1/);
	});

	it('writes only what the display can show', () => {
		expect(spell('Größe · Ténor/1', 'upper')).toBe('GROSSE TENOR/1');
		expect(spell('  naïve — œuvre ', 'ascii')).toBe('naive - oeuvre');
	});

	it('does 64 names of 40 characters', () => {
		const long = Array.from(
			{ length: 64 },
			(_, i) => `Oscillator ${(i % 8) + 1} modulation depth envelope ${Math.floor(i / 8) + 1}`
		);
		const fitted = fitNames(long, 4);
		expect(new Set(fitted.names.map(({ short }) => short)).size).toBe(64);
		for (const { short } of fitted.names) expect(short.replace(/\D/g, '')).toHaveLength(2);
	});
});

describe('ways to shorten a name', () => {
	it('come cheapest first', () => {
		fc.assert(
			fc.property(
				fc.stringMatching(/^[A-Za-z][A-Za-z0-9 ]{0,9}$/),
				fc.integer({ min: 1, max: 6 }),
				(name, room) => {
					const costs = [...name].map((_, i) => (i * 7) % 5);
					const ways = [...shorter(name, costs, room)].map(({ cost }) => cost);
					expect(ways).toEqual(ways.toSorted((a, b) => a - b));
				}
			)
		);
	});
});

describe('giving each row a column of its own', () => {
	const table = fc.array(
		fc.dictionary(fc.constantFrom('0', '1', '2', '3', '4'), fc.integer({ min: 0, max: 9 })),
		{ minLength: 1, maxLength: 5 }
	);
	it('is the cheapest, and its prices say so', () => {
		fc.assert(
			fc.property(table, (given) => {
				const rows = given.map(
					(row) => new Map(Object.entries(row).map(([column, cost]) => [Number(column), cost]))
				);
				const found = assign(rows);
				const best = least(rows);
				if ('crowded' in found) {
					expect(best).toBe(Infinity);
					// Hall: these rows know fewer columns than they are.
					const known = new Set(found.crowded.flatMap((row) => [...rows[row].keys()]));
					expect(known.size).toBeLessThan(found.crowded.length);
					return;
				}
				expect(found.cost).toBe(best);
				expect(provenBy(rows, found)).toBe(true);
				// A proof of something dearer is none.
				expect(provenBy(rows, { ...found, cost: found.cost + 1 })).toBe(false);
			}),
			{ numRuns: 1000 }
		);
	});
});
