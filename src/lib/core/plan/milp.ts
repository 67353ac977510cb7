/** A column with its coefficient. */
export type Cell = readonly [number, number];

/** A linear expression: column → coefficient. */
export type Terms = Map<number, number>;

export const terms = (entries: Iterable<Cell>): Terms => {
	const sum: Terms = new Map();
	for (const [column, value] of entries) sum.set(column, (sum.get(column) ?? 0) + value);
	return sum;
};

/** Any solution will do. */
export const NO_GOAL: Terms = new Map();

/** A programme as the solver takes it, rows one after another. */
export interface MilpData {
	numCols: number;
	numRows: number;
	colCost: Float64Array;
	colLower: Float64Array;
	colUpper: Float64Array;
	rowLower: Float64Array;
	rowUpper: Float64Array;
	integrality: (0 | 1)[];
	matrix: {
		format: 'csr';
		numRows: number;
		numCols: number;
		starts: Int32Array;
		indices: Int32Array;
		values: Float64Array;
	};
}

/** A mixed-integer programme as it grows: columns with bounds, and rows of linear expressions with bounds. */
export class Milp {
	readonly #lower: number[] = [];
	readonly #upper: number[] = [];
	readonly #whole: (0 | 1)[] = [];
	readonly #rows: { terms: Terms; lower: number; upper: number }[] = [];

	get columns(): number {
		return this.#lower.length;
	}

	column(lower: number, upper: number, whole: boolean): number {
		this.#lower.push(lower);
		this.#upper.push(upper);
		this.#whole.push(whole ? 1 : 0);
		return this.#lower.length - 1;
	}

	/** A yes or no. */
	choice(): number {
		return this.column(0, 1, true);
	}

	/** A number between 0 and 1 that the rows make whole by themselves. */
	share(): number {
		return this.column(0, 1, false);
	}

	/** @returns the number of the row, or -1 for one that says nothing */
	row(entries: Iterable<Cell>, lower: number, upper: number): number {
		const sum = terms(entries);
		if (sum.size === 0) return -1;
		return this.#rows.push({ terms: sum, lower, upper }) - 1;
	}

	atMost(entries: Iterable<Cell>, limit: number): number {
		return this.row(entries, -Infinity, limit);
	}

	equal(entries: Iterable<Cell>, value: number): number {
		return this.row(entries, value, value);
	}

	/** `column` may be yes only where `condition` is. */
	needs(column: number, condition: number): void {
		this.row(
			[
				[column, 1],
				[condition, -1]
			],
			-Infinity,
			0
		);
	}

	fix(column: number, value: number): void {
		this.#lower[column] = value;
		this.#upper[column] = value;
	}

	/** This programme with more rows, which it does not gain itself. */
	with(add: (programme: Milp) => void): Milp {
		const more = new Milp();
		more.#lower.push(...this.#lower);
		more.#upper.push(...this.#upper);
		more.#whole.push(...this.#whole);
		more.#rows.push(...this.#rows);
		add(more);
		return more;
	}

	/** The programme for the solver, minimising `goal`. */
	data(goal: Terms): MilpData {
		const starts = [0];
		const indices: number[] = [];
		const values: number[] = [];
		for (const { terms: row } of this.#rows) {
			for (const [column, value] of row) {
				indices.push(column);
				values.push(value);
			}
			starts.push(indices.length);
		}
		const colCost = new Float64Array(this.columns);
		for (const [column, value] of goal) colCost[column] = value;
		return {
			numCols: this.columns,
			numRows: this.#rows.length,
			colCost,
			colLower: Float64Array.from(this.#lower),
			colUpper: Float64Array.from(this.#upper),
			rowLower: Float64Array.from(this.#rows, ({ lower }) => lower),
			rowUpper: Float64Array.from(this.#rows, ({ upper }) => upper),
			integrality: this.#whole.slice(),
			matrix: {
				format: 'csr',
				numRows: this.#rows.length,
				numCols: this.columns,
				starts: Int32Array.from(starts),
				indices: Int32Array.from(indices),
				values: Float64Array.from(values)
			}
		};
	}
}
