import type { Rates } from './rates';
import type { SetColumn } from './set-columns';

/** Only sets that cost no more than `reach` at these rates. */
export interface Limit {
	rates: Rates;
	reach: number;
}

export interface Wanted {
	/** Only sets whose reduced cost is below this. */
	below: number;
	/** So many of each class and home, the cheapest. */
	each: number;
	/** Sets with more load than this are of no use. */
	load: number;
	/**
	 * Leaves out sets that would be no dearer without one of their members: of what is cheap, the cheapest are found all
	 * the same.
	 */
	spare?: boolean;
	/**
	 * Leaves out, too, what another set can stand in for. It finds fewer kinds of sets; the cheapest are found all the same.
	 */
	thorough?: boolean;
	/** By class, the least reduced cost of the sets that may not take part because they are listed. */
	listed?: readonly number[];
	/** Further limits. */
	limits: readonly Limit[];
	/** Sets that may take part at all. */
	may?(column: SetColumn): boolean;
	/** Looked at now and then; what was found until then is given back, and is not all. */
	over?(): boolean;
	/** Stops as soon as there are more. */
	most?: number;
	/** Looks no further in each class and home than so many steps. */
	steps?: number;
	/** The same, from when something was found. */
	patience?: number;
}

export interface Found {
	columns: SetColumn[];
	/** The least reduced cost of each class. */
	least: number[];
	/** Whether there are no others below the limit (but for those that are dearer than `each` others of their kind). */
	all: boolean;
}

/** A node that brings less than this brings nothing. */
export const NOTHING = 1e-9;
/** Multipliers that are the same may differ by this: so much dearer may one be that stands in for another. */
export const NOISE = 1e-10;
