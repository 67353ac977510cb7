import { sameBytes } from '../midi';
import {
	areaOf,
	bitsOfTexts,
	claimedBits,
	makeSlot,
	meaningOf,
	readValue,
	slotKey,
	textFields,
	writeParameter,
	type Profile,
	type Slot
} from '../profile';

export type MergeSide = 'device' | 'drawer';
export type MergeChoice = MergeSide | 'base' | 'combined';

/** One slot of a three-way merge. */
export interface MergeSlot {
	area: string;
	index: number;
	label: string;
	base: Slot | null;
	device: Slot | null;
	drawer: Slot | null;
	/** `both alike`: both sides were changed, to the same. */
	state: 'same' | 'changed on the device' | 'changed in the drawer' | 'both alike' | 'conflict';
	/** For a conflict where the two sides changed different things: both changes in one record. */
	combined: Slot | null;
	/** What is taken; null until a conflict is decided. */
	choice: MergeChoice | null;
}

const same = (a: Slot | null, b: Slot | null) => (a && b ? sameBytes(a.bytes, b.bytes) : a === b);

/**
 * Merges what became of a bank on the device and in the drawer since `base`. Slots that only one side changed merge
 * by themselves; the others are conflicts, to be decided slot by slot. A slot that one side does not hold counts as
 * unchanged there.
 */
export function mergeSlots(
	profile: Profile,
	base: readonly Slot[],
	device: readonly Slot[],
	drawer: readonly Slot[]
): MergeSlot[] {
	const by = (slots: readonly Slot[]) => new Map(slots.map((slot) => [slotKey(slot.area, slot.index), slot]));
	const [bases, devices, drawers] = [by(base), by(device), by(drawer)];
	const keys = new Map<string, Slot>([...bases, ...devices, ...drawers]);
	const order = new Map(profile.areas.map(({ id }, i) => [id, i]));
	return [...keys]
		.map(([key, { area, index, label }]): MergeSlot => {
			const was = bases.get(key) ?? null;
			const there = devices.get(key) ?? was;
			const here = drawers.get(key) ?? was;
			const changedThere = !same(was, there);
			const changedHere = !same(was, here);
			const state: MergeSlot['state'] = !changedThere
				? changedHere
					? 'changed in the drawer'
					: 'same'
				: !changedHere
					? 'changed on the device'
					: same(there, here)
						? 'both alike'
						: 'conflict';
			return {
				area,
				index,
				label,
				base: was,
				device: there,
				drawer: here,
				state,
				combined: state === 'conflict' && was && there && here ? combine(profile, was, there, here) : null,
				choice: state === 'conflict' ? null : state === 'changed in the drawer' ? 'drawer' : 'device'
			};
		})
		.sort((a, b) => order.get(a.area)! - order.get(b.area)! || a.index - b.index);
}

/** Both sides' changes in one record, where no parameter, name or other bit was changed by both. */
function combine(profile: Profile, base: Slot, device: Slot, drawer: Slot): Slot | null {
	const record = profile.records[areaOf(profile, base.area).record];
	let bytes: Uint8Array = device.bytes.slice();
	const claimed = claimedBits(record);
	for (const parameter of record.parameters) {
		const [was, there, here] = [base, device, drawer].map(({ bytes: of }) => readValue(parameter, of));
		if (here === was) continue;
		if (there !== was && there !== here) return null;
		// What it means was changed by the other side: the same number would be something else.
		if (meaningOf(record, parameter, bytes) !== meaningOf(record, parameter, drawer.bytes)) return null;
		// A value outside the described range cannot be written as one: then a person must choose.
		if (here < parameter.range[0] || here > parameter.range[1]) return null;
		bytes = writeParameter(parameter, bytes, here);
	}
	for (const text of textFields(record)) {
		const mask = bitsOfTexts(bytes.length, [text]);
		const part = (slot: Slot) => slot.bytes.map((byte, i) => byte & mask[i]);
		if (sameBytes(part(drawer), part(base))) continue;
		if (!sameBytes(part(device), part(base)) && !sameBytes(part(device), part(drawer))) return null;
		bytes = bytes.map((byte, i) => (byte & ~mask[i]) | (drawer.bytes[i] & mask[i]));
	}
	const inText = bitsOfTexts(bytes.length, textFields(record));
	for (let i = 0; i < bytes.length; i++) {
		const described = claimed[i] | inText[i];
		const here = (drawer.bytes[i] ^ base.bytes[i]) & ~described;
		const there = (device.bytes[i] ^ base.bytes[i]) & ~described;
		// The same bits changed on both sides, and not to the same.
		if (here & there && here !== there) return null;
		bytes[i] ^= here & ~there;
	}
	return makeSlot(profile, base.area, base.index, bytes);
}

/** What a slot holds after its decision; null while it is open, or where nothing is there. */
export function mergedSlot(slot: MergeSlot): Slot | null {
	return slot.choice === null ? null : slot[slot.choice];
}

/** The whole merged bank; open conflicts are left out. */
export const mergedSlots = (merge: readonly MergeSlot[]): Slot[] =>
	merge.map(mergedSlot).filter((slot) => slot !== null);

export const openConflicts = (merge: readonly MergeSlot[]): MergeSlot[] =>
	merge.filter(({ choice }) => choice === null);
