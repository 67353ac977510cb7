import type { Rig } from '../schema';
import { cableRules } from './cables';
import { channelRules } from './channels';
import { deadEndRules } from './dead-ends';
import { hostRules } from './host';
import { looseEndRules } from './loose-ends';
import { returnRules } from './returns';
import type { Rule, Severity, Trouble } from './rule';
import { signalRules } from './signal';

/** Every rule of a studio's wiring, in the order in which their findings are shown. */
export const RULES: readonly Rule[] = [
	...cableRules,
	...signalRules,
	...deadEndRules,
	...looseEndRules,
	...channelRules,
	...hostRules,
	...returnRules
];

const ORDER: readonly Severity[] = ['error', 'warning', 'note'];

const known = new WeakMap<Rig, readonly Trouble[]>();

/** All that is wrong with a rig, the gravest first. Worked out once a rig: the tabs, the ledger and the map all ask. */
export function checkRig(rig: Rig): readonly Trouble[] {
	const before = known.get(rig);
	if (before) return before;
	const troubles = RULES.flatMap(({ id, title, severity, check }) =>
		check(rig).map((finding) => ({
			rule: id,
			title,
			severity,
			id: `${id}:${finding.about.join('+')}`,
			...finding
		}))
	).sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));
	known.set(rig, troubles);
	return troubles;
}
