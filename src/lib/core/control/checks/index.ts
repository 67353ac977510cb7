import type { ControlMap } from '../map';
import { addressRules } from './addresses';
import { bodyRules } from './body';
import { heardRules } from './heard';
import { follow, type MapRule, type MapTrouble } from './check';
import { LOUD_RULES, pickUpRules } from './pick-up';
import { schoolRules } from './schools';
import { valueRules } from './values';
import { wayRules } from './way';
import { windowRules } from './windows';

export type { MapTrouble } from './check';

/** Everything that a map is looked through for. Adding a rule is adding an entry to one of these. */
export const MAP_RULES: readonly MapRule[] = [
	...bodyRules,
	...addressRules,
	...valueRules,
	...pickUpRules,
	...schoolRules,
	...wayRules,
	...windowRules,
	...heardRules
];

const ORDER = ['error', 'warning', 'note'] as const;

/** What is wrong with a map, errors first. */
export function checkMap(map: ControlMap): MapTrouble[] {
	const checked = follow(map);
	return MAP_RULES.flatMap((rule) => rule.find(checked).map((found) => ({ rule: rule.id, ...found }))).sort(
		(a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity)
	);
}

/** What of that is about a page, or about what is the same on every page, getting loud at once, in words. */
export const loudOf = (troubles: readonly MapTrouble[], map: ControlMap, page: number): string[] =>
	troubles
		.filter(
			({ rule, at }) =>
				LOUD_RULES.includes(rule) && (at[0] === 'globals' || map.pages[Number(at[1])]?.number === page)
		)
		.map(({ says }) => says);
