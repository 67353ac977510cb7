import type { ShowSet } from '../set';
import { beyondPlayer, gap, overlap, range } from './keys';
import { groundOf, type Rule, type SceneWiring, type ZoneFinding } from './rule';
import { bankIgnored, bankWanted, countsUnknown, guessed, noSound, tooLoud, tooManyParts } from './sounds';
import { floorAboveCeiling, fullFloor, velocityGap } from './velocity';
import {
	away,
	localDouble,
	noWay,
	nothingThere,
	omniNeighbour,
	oneChannel,
	pedalTwice,
	playedToo,
	sameSection
} from './ways';

const RULES: readonly Rule[] = [
	localDouble,
	nothingThere,
	noWay,
	tooManyParts,
	overlap,
	floorAboveCeiling,
	away,
	playedToo,
	omniNeighbour,
	oneChannel,
	range,
	beyondPlayer,
	gap,
	velocityGap,
	fullFloor,
	pedalTwice,
	bankIgnored,
	bankWanted,
	tooLoud,
	countsUnknown,
	noSound,
	sameSection,
	guessed
];

const ORDER = ['wrong', 'warning', 'unknown', 'note'];

/** The ids of all rules. */
export const ZONE_RULES = RULES.map(({ id }) => id);

/** Everything that is wrong with what is on the desk, or not known; the worst first. Without wiring, ways are not judged. */
export function checkZones(set: ShowSet, wiring: SceneWiring | null): ZoneFinding[] {
	const ground = groundOf(set, wiring);
	return RULES.flatMap(({ id, find }) => find(ground).map((found) => ({ rule: id, ...found }))).sort(
		(a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity)
	);
}
