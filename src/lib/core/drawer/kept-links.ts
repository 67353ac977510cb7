import { sameBytes } from '../midi';
import { Problem } from '../problem';
import { linksIn, makeSlot, pointTo, slotKey, type Profile, type Slot } from '../profile';

/** A reference of a slot that would play something else once the wanted slots are written. */
export interface MovedLink {
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

/** A sound that is brought along because something that is restored plays it. */
export interface Brought {
	area: string;
	/** Where it was, and where it is put. */
	from: number;
	index: number;
	name: string | null;
}

/** What a restore does to those that name what it moves, and what keeps them right. */
export interface KeptLinks {
	/** The wanted slots, and with them those that have to be pointed to where their sounds will be. */
	wanted: Slot[];
	/** References that are pointed to a new place. */
	pointed: MovedLink[];
	/** References that will play something else all the same. */
	lost: MovedLink[];
	/** Sounds that come along. */
	brought: Brought[];
}

/** What the slots of one place hold, and which of them hold the same. */
class Contents {
	#at = new Map<string, Slot>();
	#places = new Map<string, number[]>();

	constructor(slots: Iterable<Slot>) {
		for (const slot of slots) this.#at.set(slotKey(slot.area, slot.index), slot);
		for (const { area, index, bytes } of this.#at.values()) {
			const content = `${area} ${bytes.join()}`;
			this.#places.set(content, [...(this.#places.get(content) ?? []), index]);
		}
	}

	get slots(): Iterable<Slot> {
		return this.#at.values();
	}

	at(area: string, index: number): Slot | undefined {
		return this.#at.get(slotKey(area, index));
	}

	has({ area, index }: { area: string; index: number }): boolean {
		return this.#at.has(slotKey(area, index));
	}

	/** The slots that hold exactly this, lowest first. */
	placesOf({ area, bytes }: Slot): number[] {
		return (this.#places.get(`${area} ${bytes.join()}`) ?? []).toSorted((a, b) => a - b);
	}
}

/** Where wanted slots come from, by `slotKey`: what they name is meant as it was there, not as it is now. */
export type MeantBy = ReadonlyMap<string, readonly Slot[]>;

/** The task: what a device holds, what it shall hold, and what that names. */
class Links {
	readonly #profile: Profile;
	readonly #now: Contents;
	readonly #meant: MeantBy;
	readonly #places = new Map<readonly Slot[], Contents>();

	constructor(profile: Profile, known: readonly Slot[], meant: MeantBy) {
		this.#profile = profile;
		this.#now = new Contents(known);
		this.#meant = meant;
	}

	/** What a slot names, as it is meant: where it comes from, or else as the device is now. */
	#named(asked: Contents, slot: Slot, to: string, index: number): Slot | undefined {
		const from = asked.has(slot) ? this.#meant.get(slotKey(slot.area, slot.index)) : undefined;
		if (!from) return this.#now.at(to, index);
		let there = this.#places.get(from);
		if (!there) this.#places.set(from, (there = new Contents(from)));
		return there.at(to, index) ?? this.#now.at(to, index);
	}

	#then(asked: readonly Slot[]): Contents {
		return new Contents([...this.#now.slots, ...asked]);
	}

	/** Points whatever names something that is moved to where that will be. */
	keep(wanted: readonly Slot[]): Omit<KeptLinks, 'brought'> & { missing: { slot: Slot; by: MovedLink }[] } {
		const asked = new Contents(wanted);
		const then = this.#then(wanted);
		const pointed: MovedLink[] = [];
		const lost: MovedLink[] = [];
		const missing: { slot: Slot; by: MovedLink }[] = [];
		const all = new Map(wanted.map((slot) => [slotKey(slot.area, slot.index), slot]));
		for (const slot of then.slots) {
			let bytes = slot.bytes;
			for (const { id, name, to, slot: named } of linksIn(this.#profile, slot.area, slot.bytes)) {
				if (named === null) continue;
				const before = this.#named(asked, slot, to, named);
				const after = then.at(to, named);
				if (before && after && sameBytes(before.bytes, after.bytes)) continue;
				const link = { area: slot.area, index: slot.index, id, name, to, slot: named };
				if (!before) {
					// What it plays was never read: that is said where it is written over, or brought to where it was not.
					if (after || asked.has(slot)) lost.push({ ...link, moved: null, why: 'not known' });
					continue;
				}
				const at = then.placesOf(before);
				const reached = this.#firstReached(slot.area, bytes, id, at);
				if (reached) {
					bytes = reached.bytes;
					pointed.push({ ...link, moved: reached.slot, why: null });
				} else {
					const by: MovedLink = { ...link, moved: null, why: at.length === 0 ? 'nowhere' : 'out of reach' };
					lost.push(by);
					if (asked.has(slot)) missing.push({ slot: before, by });
				}
			}
			if (bytes !== slot.bytes)
				all.set(slotKey(slot.area, slot.index), makeSlot(this.#profile, slot.area, slot.index, bytes));
		}
		const order = new Map(this.#profile.areas.map(({ id }, i) => [id, i]));
		return {
			wanted: [...all.values()].sort((a, b) => order.get(a.area)! - order.get(b.area)! || a.index - b.index),
			pointed,
			lost,
			missing
		};
	}

	/** The first of these slots that a reference can name, and the record that names it. */
	#firstReached(
		area: string,
		bytes: Uint8Array,
		id: string,
		slots: readonly number[]
	): { slot: number; bytes: Uint8Array } | null {
		for (const slot of slots)
			try {
				return { slot, bytes: pointTo(this.#profile, area, bytes, id, slot) };
			} catch (error) {
				if (!(error instanceof Problem)) throw error;
			}
		return null;
	}

	/**
	 * Slots that may be written over with nothing lost from the device: the same sound stays in a lower one. Those that
	 * nobody names come first, the last ones before others.
	 */
	#free(asked: readonly Slot[], area: string): number[] {
		const wanted = new Contents(asked);
		const then = this.#then(asked);
		const named = new Set<number>();
		for (const slot of then.slots)
			for (const { to, slot: index } of linksIn(this.#profile, slot.area, slot.bytes))
				if (to === area && index !== null) named.add(index);
		return [...then.slots]
			.filter((slot) => slot.area === area && !wanted.has(slot) && then.placesOf(slot)[0] < slot.index)
			.map(({ index }) => index)
			.sort((a, b) => Number(named.has(a)) - Number(named.has(b)) || b - a);
	}

	/** The wanted slots, and the sounds that they play and the device has nowhere, each in a place that is free. */
	bring(wanted: readonly Slot[]): { wanted: Slot[]; brought: Brought[] } {
		const all = [...wanted];
		const brought: Brought[] = [];
		/** What there was no place for. */
		const left = new Set<string>();
		for (;;) {
			const next = this.keep(all).missing.find(({ slot }) => !left.has(`${slot.area} ${slot.bytes.join()}`));
			if (!next) return { wanted: all, brought };
			const { slot, by } = next;
			const namer = all.find(({ area, index }) => area === by.area && index === by.index)!;
			const place = this.#firstReached(by.area, namer.bytes, by.id, this.#free(all, slot.area));
			if (!place) {
				left.add(`${slot.area} ${slot.bytes.join()}`);
				continue;
			}
			all.push(makeSlot(this.#profile, slot.area, place.slot, slot.bytes));
			brought.push({ area: slot.area, from: slot.index, index: place.slot, name: slot.name });
		}
	}
}

/**
 * Keeps those right that name what is moved: every slot whose references would play something else once `wanted` is
 * written is itself wanted, pointed to where its sounds will be.
 * @param known what the device holds
 * @param options `meant`: where wanted slots come from; one that is left out means what the device has now. `bring`:
 * sounds that wanted slots play and the device has nowhere come along, into places whose sound it has twice
 */
export function keepLinks(
	profile: Profile,
	known: readonly Slot[],
	wanted: readonly Slot[],
	{ meant = new Map(), bring = false }: { meant?: MeantBy; bring?: boolean } = {}
): KeptLinks {
	const links = new Links(profile, known, meant);
	const full = bring ? links.bring(wanted) : { wanted, brought: [] };
	const { missing: _, ...kept } = links.keep(full.wanted);
	return { ...kept, brought: full.brought };
}

/** Whether anything of this model names slots. */
export const namesSlots = ({ records }: Profile): boolean =>
	Object.values(records).some(({ references }) => references !== undefined);

/** Who names a slot, and by which of their references. */
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
