import { areaOf, slotKey, slotLabel, type Profile } from '../profile';
import type { MissingSlot, Reason } from './outcome';
import type { SlotSet } from './scope';

/** The wanted slots that are not held, each with why. */
export function missingSlots(
	profile: Profile,
	wanted: SlotSet,
	held: Set<string>,
	why: Map<string, string>,
	reason: Reason | null
): MissingSlot[] {
	const missing: MissingSlot[] = [];
	for (const [area, slots] of wanted) {
		const { labels } = areaOf(profile, area);
		for (const index of slots) {
			const key = slotKey(area, index);
			if (!held.has(key))
				missing.push({
					area,
					index,
					label: slotLabel(labels, index),
					why: why.get(key) ?? reason?.code ?? 'not received'
				});
		}
	}
	return missing;
}
