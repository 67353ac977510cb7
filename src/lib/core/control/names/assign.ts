/** What each row took, and prices that prove it: see `assign`. */
export interface Assignment {
	/** For each row its column. */
	columns: number[];
	cost: number;
	/** No row may cost less than its price plus that of the column, and the sum of all prices is the cost: nothing is cheaper. */
	rowPrices: number[];
	columnPrices: Map<number, number>;
}

/**
 * Gives each row a column of its own so that the sum of costs is the least (successive shortest paths; Kuhn 1955,
 * Jonker and Volgenant 1987). Costs are whole numbers.
 * @param rows for each row the columns that it can take, with their costs
 * @returns the assignment, or the rows that want fewer columns than they are
 */
export function assign(rows: readonly ReadonlyMap<number, number>[]): Assignment | { crowded: number[] } {
	const rowPrices = rows.map(() => 0);
	const columnPrices = new Map<number, number>();
	const price = (column: number) => columnPrices.get(column) ?? 0;
	const taken = new Map<number, number>();
	for (let start = 0; start < rows.length; start++) {
		// The shortest way from this row to a column that nobody has, over columns whose rows move on.
		const distance = new Map<number, number>();
		const from = new Map<number, number>();
		const done = new Set<number>();
		const visited: { row: number; at: number }[] = [];
		let free: number;
		let [row, at] = [start, 0];
		for (;;) {
			visited.push({ row, at });
			for (const [column, cost] of rows[row]) {
				if (done.has(column)) continue;
				const reach = at + cost - rowPrices[row] - price(column);
				if (reach < (distance.get(column) ?? Infinity)) {
					distance.set(column, reach);
					from.set(column, row);
				}
			}
			let next: number | null = null;
			for (const [column, reach] of distance)
				if (!done.has(column) && (next === null || reach < distance.get(next)!)) next = column;
			if (next === null) return { crowded: visited.map((each) => each.row).sort((a, b) => a - b) };
			done.add(next);
			at = distance.get(next)!;
			const owner = taken.get(next);
			if (owner === undefined) {
				free = next;
				break;
			}
			row = owner;
		}
		for (const { row: seen, at: reached } of visited) rowPrices[seen] += at - reached;
		for (const column of done) columnPrices.set(column, price(column) - (at - distance.get(column)!));
		for (let column = free; column >= 0;) {
			const owner = from.get(column)!;
			const before = [...taken].find(([, each]) => each === owner)?.[0] ?? -1;
			taken.delete(before);
			taken.set(column, owner);
			column = owner === start ? -1 : before;
		}
	}
	const columns = rows.map((_, row) => [...taken].find(([, each]) => each === row)![0]);
	return {
		columns,
		cost: columns.reduce((sum, column, row) => sum + rows[row].get(column)!, 0),
		rowPrices,
		columnPrices
	};
}

/**
 * Whether an assignment is shown to be the cheapest by its prices alone: columns that nobody took cost nothing and no
 * price of a column is above nought, no entry is below the sum of its prices, and all prices together are the cost.
 */
export function provenBy(rows: readonly ReadonlyMap<number, number>[], found: Assignment): boolean {
	const price = (column: number) => found.columnPrices.get(column) ?? 0;
	const taken = new Set(found.columns);
	if (taken.size !== rows.length) return false;
	if ([...found.columnPrices].some(([column, at]) => at > 0 || (at < 0 && !taken.has(column)))) return false;
	if (rows.some((row, i) => [...row].some(([column, cost]) => cost < found.rowPrices[i] + price(column))))
		return false;
	const sum =
		found.rowPrices.reduce((all, at) => all + at, 0) +
		found.columns.reduce((all, column) => all + price(column), 0);
	return sum === found.cost;
}
