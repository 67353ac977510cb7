import type { Price } from './price';

/** What things are worth by the multipliers of a relaxation: a set costs its price at these rates, less what it covers. */
export interface Rates {
	crowded: number;
	moves: number;
	away: number;
	channels: number;
	/** By the index of the out: what having a node in a set there is worth, by its index. */
	worth: readonly Float64Array[];
	/** What using an out of a class is worth (never more than nothing), by the index of the out. */
	outs: Float64Array;
}

/** Reduced cost of a set on an out. */
export function reducedCost(rates: Rates, out: number, set: readonly number[], price: Price): number {
	let cost =
		rates.crowded * price.crowded +
		rates.moves * price.moves +
		rates.away * price.away +
		rates.channels * price.channels -
		rates.outs[out];
	const worth = rates.worth[out];
	for (const at of set) cost -= worth[at];
	return cost;
}
