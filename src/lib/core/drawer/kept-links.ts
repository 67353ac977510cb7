import { sameBytes } from '../midi';
import { Problem } from '../problem';
import { areaOf, linksIn, makeSlot, pointTo, slotKey, type Profile, type Slot } from '../profile';

/** A reference of a slot that would sound otherwise once the wanted slots are written. */
export interface LostLink {
	area: string;
	/** The slot that names another: a performance. */
	index: number;
	/** The reference of its record. */
	id: string;
	name: string;
	to: string;
	/** The slot that it names now. */
	slot: number;
	/** Where what it named will be; null where it will be nowhere, or cannot be named there. */
	moved: number | null;
	/** Why it cannot be kept; null where it can. */
	why: 'nowhere' | 'out of reach' | 'not known' | null;
}

/** What a restore does to those that name what it moves, and what keeps them right. */
export interface KeptLinks {
	/** The wanted slots, and with them those that have to be pointed to where their sounds will be. */
	wanted: Slot[];
	/** References that are pointed to a new place. */
	pointed: LostLink[];
	/** References that will play something else all the same. */
	lost: LostLink[];
}

const contentsOf = (slots: readonly Slot[]) =>
	new Map(slots.map((slot) => [slotKey(slot.area, slot.index), slot]));

/**
 * Keeps those right that name what is moved: every slot whose references would play something else once `wanted` is
 * written is itself wanted, pointed to where its sounds will be.
 * @param known what the device holds
 * @param meant where the wanted slots come from: what they name is meant as it was there; left out, as it is now
 */
export function keepLinks(
	profile: Profile,
	known: readonly Slot[],
	wanted: readonly Slot[],
	meant: readonly Slot[] = known
): KeptLinks {
	const now = contentsOf(known);
	const [asked, there] = [contentsOf(wanted), contentsOf(meant)];
	const then = new Map([...now, ...asked]);
	const places = new Map<string, number[]>();
	for (const { area, index, bytes } of then.values()) {
		const key = `${area} ${bytes.join()}`;
		places.set(key, [...(places.get(key) ?? []), index]);
	}
	const pointed: LostLink[] = [];
	const lost: LostLink[] = [];
	const extra = new Map<string, Slot>();
	for (const slot of then.values()) {
		let bytes = slot.bytes;
		for (const { id, name, to, slot: named } of linksIn(profile, slot.area, slot.bytes)) {
			if (named === null) continue;
			const key = slotKey(to, named);
			const before = (asked.has(slotKey(slot.area, slot.index)) ? there.get(key) : undefined) ?? now.get(key);
			const after = then.get(key);
			if (before && after && sameBytes(before.bytes, after.bytes)) continue;
			const link = { area: slot.area, index: slot.index, id, name, to, slot: named };
			if (!before) {
				// What it plays was never read: it stays as it is, unless that slot is written.
				if (after) lost.push({ ...link, moved: null, why: 'not known' });
				continue;
			}
			const at = (places.get(`${to} ${before.bytes.join()}`) ?? []).toSorted((a, b) => a - b);
			if (at.length === 0) {
				lost.push({ ...link, moved: null, why: 'nowhere' });
				continue;
			}
			const reached = firstReached(profile, slot.area, bytes, id, at);
			if (!reached) lost.push({ ...link, moved: null, why: 'out of reach' });
			else {
				bytes = reached.bytes;
				pointed.push({ ...link, moved: reached.slot, why: null });
			}
		}
		if (bytes !== slot.bytes)
			extra.set(slotKey(slot.area, slot.index), makeSlot(profile, slot.area, slot.index, bytes));
	}
	const all = new Map([...asked, ...extra]);
	const order = new Map(profile.areas.map(({ id }, i) => [id, i]));
	return {
		wanted: [...all.values()].sort((a, b) => order.get(a.area)! - order.get(b.area)! || a.index - b.index),
		pointed,
		lost
	};
}

/** The first of these slots that a reference can name, and the record that names it. */
function firstReached(
	profile: Profile,
	area: string,
	bytes: Uint8Array,
	id: string,
	slots: readonly number[]
): { slot: number; bytes: Uint8Array } | null {
	for (const slot of slots)
		try {
			return { slot, bytes: pointTo(profile, area, bytes, id, slot) };
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
		}
	return null;
}

/** Who names a slot, and which of their references. */
export const usersOf = (
	profile: Profile,
	known: readonly Slot[],
	area: string,
	index: number
): { slot: Slot; name: string }[] =>
	known.flatMap((slot) =>
		linksIn(profile, slot.area, slot.bytes)
			.filter(({ to, slot: named }) => to === area && named === index)
			.map(({ name }) => ({ slot, name }))
	);
