import type { MilpData } from './milp';

/** What follows from one choice of multipliers. */
export interface SafeBound {
	/** No solution of the relaxed programme is below it. */
	bound: number;
	/** By how much a solution is above the bound, at least, for each whole step of a column from its better end. */
	reduced: Float64Array;
}

/** Rounding may add up over the terms of a sum: this much of what went into it is taken off. */
const ROUNDING = 1e-11;

/**
 * A lower bound by weak duality, from any multipliers for the rows: `Σ yᵢ·bᵢ + Σ min dⱼ·xⱼ` with `d = c − Aᵀy`. It holds
 * whatever the multipliers are, so it is right even where the solver that gave them is not. Better multipliers give a
 * higher bound. A column without a limit on the side that would be needed makes it −∞.
 */
export function safeBound(
	data: Pick<
		MilpData,
		'numCols' | 'numRows' | 'colCost' | 'colLower' | 'colUpper' | 'rowLower' | 'rowUpper' | 'matrix'
	>,
	multipliers: ArrayLike<number>
): SafeBound {
	const reduced = Float64Array.from(data.colCost);
	const { starts, indices, values } = data.matrix;
	let [bound, size] = [0, 0];
	const add = (term: number) => {
		bound += term;
		size += Math.abs(term);
	};
	for (let row = 0; row < data.numRows; row++) {
		const end = multipliers[row] > 0 ? data.rowLower[row] : data.rowUpper[row];
		// A row that is open on this side says nothing there: without it the bound still holds.
		if (multipliers[row] === 0 || !Number.isFinite(multipliers[row]) || !Number.isFinite(end)) continue;
		add(multipliers[row] * end);
		for (let at = starts[row]; at < starts[row + 1]; at++)
			reduced[indices[at]] -= multipliers[row] * values[at];
	}
	for (let column = 0; column < data.numCols; column++) {
		const d = reduced[column];
		if (d === 0) continue;
		add(d * (d > 0 ? data.colLower[column] : data.colUpper[column]));
	}
	return { bound: bound - size * ROUNDING, reduced };
}
