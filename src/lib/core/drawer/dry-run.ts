import { sameBytes } from '../midi';
import { areaOf, slotKey, slotLabel, type Profile, type Slot } from '../profile';
import { affectedSlots, differsFrom, messagesIn, planRestore, writeMs, type SlotSet } from '../transfer';

/** What a restore would do, before anything is sent, judged by what was last read. */
export interface DryRun {
	messages: number;
	bytes: number;
	/** On the wire, with the device's own pauses; reading before and after comes on top. */
	ms: number;
	/** Slots whose content would change, as far as is known. */
	overwritten: { area: string; index: number; label: string; now: string | null; then: string | null }[];
	/** Slots that are written along unchanged, since the device takes only whole banks. */
	along: number;
	/** Slots that held what is wanted when they were read last. */
	alreadyThere: number;
	/** When the oldest of these was read, ISO 8601; null where there is none. */
	readAt: string | null;
	/** Slots of which is not known what the device holds: never read, or written since. */
	unknown: number;
	/** Areas that the device cannot take in this way. */
	impossible: string[];
}

/** Works out the fewest messages from what the device was last seen to hold (`known`) to what is wanted. @param rewrite what is there already is written as well */
export function dryRun(
	profile: Profile,
	known: readonly { slot: Slot; at: string }[],
	wanted: readonly Slot[],
	rewrite = false
): DryRun {
	const bySlot = new Map(known.map((entry) => [slotKey(entry.slot.area, entry.slot.index), entry]));
	const content = new Map(wanted.map((slot) => [slotKey(slot.area, slot.index), slot.bytes]));
	const differing: SlotSet = new Map();
	const overwritten: DryRun['overwritten'] = [];
	let unknown = 0;
	let readAt: string | null = null;
	for (const slot of wanted) {
		const now = bySlot.get(slotKey(slot.area, slot.index));
		if (!rewrite && now && sameBytes(now.slot.bytes, slot.bytes)) {
			if (readAt === null || now.at < readAt) readAt = now.at;
			continue;
		}
		if (!now) unknown++;
		differing.set(
			slot.area,
			[...(differing.get(slot.area) ?? []), slot.index].sort((a, b) => a - b)
		);
		overwritten.push({
			area: slot.area,
			index: slot.index,
			label: slotLabel(areaOf(profile, slot.area).labels, slot.index),
			now: now?.slot.name ?? null,
			then: slot.name
		});
	}
	const readable = (area: string) => profile.capture.some((way) => way.area === area);
	const { writes, impossible } = planRestore(
		profile,
		differing,
		(area, index) => content.has(slotKey(area, index)) || readable(area),
		rewrite
			? undefined
			: differsFrom(new Map([...bySlot].map(([key, { slot }]) => [key, slot.bytes])), content)
	);
	const touched = [...affectedSlots(writes)].flatMap(([area, slots]) =>
		slots.map((slot) => slotKey(area, slot))
	);
	return {
		messages: messagesIn(writes),
		bytes: writes.reduce((sum, write) => sum + write.bytes, 0),
		ms: writes.reduce((sum, write) => sum + writeMs(write), 0),
		overwritten,
		along: new Set(touched).size - overwritten.length,
		alreadyThere: wanted.length - overwritten.length,
		readAt,
		unknown,
		impossible: impossible.map((area) => areaOf(profile, area).name)
	};
}
