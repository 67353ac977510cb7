import { areaOf, slotKey, slotLabel, type Profile } from '../profile';
import type { MissingSlot, Reason } from './outcome';
import type { SlotSet } from './scope';

/** What of a slot is missing, where the rest came, and why. */
const joinedWhy = (missing: string | null, why: string): string =>
	missing === null ? why : `${missing}: ${why}`;

/** The wanted slots that are not held, each with why. */
export function missingSlots(
	profile: Profile,
	wanted: SlotSet,
	haul: {
		holdsSlot(area: string, slot: number): boolean;
		missingOf(area: string, slot: number): string | null;
		why: ReadonlyMap<string, string>;
	},
	reason: Reason | null
): MissingSlot[] {
	const missing: MissingSlot[] = [];
	for (const [area, slots] of wanted) {
		const { labels } = areaOf(profile, area);
		for (const index of slots) {
			const key = slotKey(area, index);
			if (!haul.holdsSlot(area, index))
				missing.push({
					area,
					index,
					label: slotLabel(labels, index),
					why: joinedWhy(haul.missingOf(area, index), haul.why.get(key) ?? reason?.code ?? 'not received')
				});
		}
	}
	return missing;
}
