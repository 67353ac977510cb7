import { sameBytes, wireMs } from '../midi';
import {
	areaOf,
	messagesOf,
	parcelsFor,
	slotKey,
	type Parcel,
	type Profile,
	type RestoreWay,
	type Span
} from '../profile';
import { cheapestCover } from './cover';
import type { SlotSet } from './scope';
import { bytesOf, groupsOf, togetherIn, type Offer } from './travel';
import { Units } from './units';

/** What is written of slots that travel together. */
export interface Write {
	way: RestoreWay;
	area: string;
	first: number;
	records: number;
	/** The messages, in order. */
	parcels: Parcel[];
	/** Bytes of them all. */
	bytes: number;
	/** Bytes of the longest. */
	longest: number;
	/** Rests of each for calling its slot up and storing it. */
	storingMs: number;
}

export const writeMs = ({ way, parcels, bytes, storingMs }: Write, paceFactor = 1): number => {
	const pauses = way.chunk
		? (Math.max(parcels.length, Math.ceil(bytes / way.chunk.bytes)) - parcels.length) * way.chunk.gapMs
		: 0;
	return wireMs(bytes) + (pauses + (way.gapMs + storingMs) * parcels.length) * paceFactor;
};

function writeOf(
	profile: Profile,
	way: RestoreWay,
	first: number,
	records: number,
	parcels: Parcel[]
): Write {
	const lengths = parcels.map((parcel) => bytesOf(profile, parcel));
	const { called } = areaOf(profile, way.area);
	return {
		way,
		area: way.area,
		first,
		records,
		parcels,
		bytes: lengths.reduce((sum, length) => sum + length, 0),
		longest: Math.max(0, ...lengths),
		storingMs: called ? called.settleMs + called.storeMs : 0
	};
}

/** Whether a stretch of a slot has to be written. */
export type Differs = (area: string, span: Span) => boolean;

/** Content of slots by `slotKey`. */
type Contents = ReadonlyMap<string, Uint8Array>;

/** Whether a stretch is to be changed: it is wanted, and not known to be so already. A neighbour that nobody wants is left. */
export const differsFrom =
	(now: Contents, wanted: Contents): Differs =>
	(area, { slot, at, size }) => {
		const key = slotKey(area, slot);
		const [is, shall] = [now.get(key), wanted.get(key)];
		return (
			shall !== undefined && !(is && sameBytes(is.subarray(at, at + size), shall.subarray(at, at + size)))
		);
	};

/** How many messages these writes are, what begins and ends them among it. */
export const messagesIn = (writes: readonly Write[]): number =>
	writes.reduce(
		(sum, { way, parcels }) =>
			sum + parcels.length + (way.begin === undefined ? 0 : 1) + (way.end === undefined ? 0 : 1),
		0
	);

/**
 * How to write these slots in the least time, single messages and whole banks mixed where that is faster. `known`
 * tells whether the content of a slot is at hand: a way that writes several slots at once needs all of them.
 * @param differs whether a stretch of a slot is not yet as it shall be; what is, is not sent where it travels alone
 */
export function planRestore(
	profile: Profile,
	wanted: SlotSet,
	known: (area: string, index: number) => boolean,
	differs: Differs = () => true
): { writes: Write[]; impossible: string[] } {
	const writes: Write[] = [];
	const impossible: string[] = [];
	for (const [area, slots] of wanted) {
		const units = new Units(profile, area);
		const wantedUnits = units.of(slots, (slot, { at, size }) => differs(area, { slot, at, size }));
		if (wantedUnits.length === 0) continue;
		const offers = profile.restore
			.filter((way) => way.area === area)
			.flatMap((way) => writesBy(profile, way, slots, units, differs))
			.filter(({ items }) => items.every((write) => slotsOf(write).every((slot) => known(area, slot))));
		const cover = cheapestCover(wantedUnits, offers);
		if (cover) writes.push(...cover.flatMap(({ items }) => items));
		else impossible.push(area);
	}
	return { writes, impossible };
}

/** What one way can write of these slots. */
function writesBy(
	profile: Profile,
	way: RestoreWay,
	slots: readonly number[],
	units: Units,
	differs: Differs
): Offer<Write>[] {
	const ids = messagesOf(way.send);
	const together = togetherIn(profile, ids);
	return groupsOf(slots, together).flatMap((first): Offer<Write>[] => {
		const all = parcelsFor(profile, ids, way.area, first, together, way.most);
		// What travels alone and is already as it shall be stays at home.
		const differing = all.filter(({ holds }) => holds.some((span) => differs(way.area, span)));
		if (differing.length === 0) return [];
		const write = writeOf(profile, way, first, together, way.begin || way.together ? all : differing);
		return [
			{
				...units.stretch(first, first + together - 1, units.reach(all.flatMap(({ holds }) => holds))),
				cost: writeMs(write),
				items: [write]
			}
		];
	});
}

/** The slots that a write overwrites. */
export const slotsOf = (write: Write): number[] =>
	Array.from({ length: write.records }, (_, i) => write.first + i);

/** Slots by area that a row of writes overwrites. */
export function affectedSlots(writes: readonly Write[]): SlotSet {
	const set: SlotSet = new Map();
	for (const write of writes)
		set.set(write.area, [...new Set([...(set.get(write.area) ?? []), ...slotsOf(write)])]);
	return set;
}
