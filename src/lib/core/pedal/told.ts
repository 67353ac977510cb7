import { curesOf, type FootCure } from './cures';
import type { Floor } from './floor';
import { lineName, pairingOf } from './pairing';
import { judge, type Verdict } from './verdict';

/** What is to be said of a line. */
export interface ToldLine {
	id: string;
	name: string;
	/** Null where something of it is not on the floor any more. */
	verdict: Verdict | null;
	cures: FootCure[];
}

/** What every line of a floor comes to, and what mends it. */
export const tellLines = (floor: Floor): ToldLine[] =>
	floor.lines.map((line) => {
		const pairing = pairingOf(floor, line);
		return {
			id: line.id,
			name: lineName(floor, line),
			verdict: pairing && judge(pairing),
			cures: curesOf(floor, line)
		};
	});
