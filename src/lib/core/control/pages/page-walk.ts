import type { Cell, Milp, Terms } from '../../plan/milp';
import { touchesOf } from './page-start';
import type { PageTask } from './page-task';

/** What the presses are in the programme, and their columns for a layout. */
interface Walk {
	goal: { terms: Terms; plus: number };
	write(values: Float64Array, pageOf: (t: number) => number | null): void;
}

/** Presses along the songs, as columns and rows of a programme. */
export function walkOf(
	task: PageTask,
	milp: Milp,
	onPage: readonly number[][],
	table: readonly number[][],
	allPlaced: boolean,
	groupOf: ReadonlyMap<number, number>
): Walk {
	const touches = touchesOf(task);
	const pages = Array.from({ length: task.pages.count }, (_, page) => page);
	const usable = pages.filter((page) => table[0][page] < Infinity);
	const most = Math.max(0, ...usable.flatMap((from) => usable.map((to) => table[from][to])));
	const least = Math.min(
		Infinity,
		...usable.flatMap((from) => usable.filter((to) => to !== from).map((to) => table[from][to]))
	);
	/** What going from one page to another costs at least, whoever decides which these are. */
	const between = (from: readonly number[], to: readonly number[]): number => {
		const cost = milp.column(0, most, false);
		for (const page of usable) {
			if (least < Infinity)
				milp.atMost(
					[
						[to[page], least],
						[from[page], -least],
						[cost, -1]
					],
					0
				);
			if (most > least)
				milp.atMost(
					[...usable.map((q): Cell => [to[q], table[page][q]]), [from[page], most], [cost, -1]],
					most
				);
		}
		return cost;
	};
	const terms: Terms = new Map();
	const add = (column: number, by: number) => terms.set(column, (terms.get(column) ?? 0) + by);
	if (allPlaced) {
		// Each target has a page: what a pair costs is counted as often as the songs go from one to the other.
		const pairs = new Map<string, { a: number; b: number; times: number }>();
		for (let i = 1; i < touches.length; i++) {
			const [a, b] = [touches[i - 1], touches[i]].sort((x, y) => x - y);
			if (groupOf.has(a) && groupOf.get(a) === groupOf.get(b)) continue;
			const pair = pairs.get(`${a} ${b}`) ?? { a, b, times: 0 };
			pairs.set(`${a} ${b}`, { ...pair, times: pair.times + 1 });
		}
		if (touches.length > 0)
			for (const page of usable) if (table[0][page] > 0) add(onPage[touches[0]][page], table[0][page]);
		const costs = [...pairs.values()].map(({ a, b, times }) => {
			const cost = between(onPage[a], onPage[b]);
			add(cost, times);
			return { a, b, cost };
		});
		return {
			goal: { terms, plus: 0 },
			write(values, pageOf) {
				for (const { a, b, cost } of costs) values[cost] = table[pageOf(a) ?? 0][pageOf(b) ?? 0];
			}
		};
	}
	// The page that shows after each touch: the target's own where it has one, any where it has none.
	const shown = touches.map((t) => {
		const columns = pages.map((page) => {
			const column = milp.choice();
			if (!usable.includes(page)) milp.fix(column, 0);
			return column;
		});
		milp.equal(
			columns.map((column): Cell => [column, 1]),
			1
		);
		for (const page of usable) milp.needs(onPage[t][page], columns[page]);
		return columns;
	});
	const costs = shown.map((columns, i) => {
		if (i > 0) {
			const cost = between(shown[i - 1], columns);
			add(cost, 1);
			return cost;
		}
		for (const page of usable) if (table[0][page] > 0) add(columns[page], table[0][page]);
		return -1;
	});
	return {
		goal: { terms, plus: 0 },
		write(values, pageOf) {
			let on = 0;
			touches.forEach((t, i) => {
				const page = pageOf(t) ?? on;
				values[shown[i][page]] = 1;
				if (costs[i] >= 0) values[costs[i]] = table[on][page];
				on = page;
			});
		}
	};
}
