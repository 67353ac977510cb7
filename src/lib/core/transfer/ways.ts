import { sameBytes, wireMs } from '../midi';
import {
	addressed,
	areaOf,
	layoutOf,
	messageLength,
	messagesOf,
	parcelsOf,
	slotKey,
	slotsTogether,
	variablesIn,
	type CaptureWay,
	type Parcel,
	type Profile,
	type RestoreWay,
	type Section,
	type Span,
	type Variables
} from '../profile';
import { cheapestCover, type Stretch } from './cover';
import type { SlotSet } from './scope';
import { Units } from './units';

/** One thing to ask a device for. */
export interface Ask {
	way: CaptureWay;
	area: string;
	/** First slots of what travels together: one for a request, all for a dump started at the panel. */
	firsts: number[];
	/** Slots that travel together. */
	records: number;
	/** What comes, as far as it is wanted. */
	brings: Span[];
	/** What the request says. */
	request: Variables;
	/** Messages that come at least. */
	messages: number;
	requestBytes: number;
	replyBytes: number;
	/** Rests that it takes, in ms. */
	restMs: number;
	/** How often it is asked: twice where nothing says which slot came. */
	reads: 1 | 2;
	/** Bytes of the longest message that comes. */
	longest: number;
}

/** What of a slot is wanted. */
export type Wanted = (area: string, slot: number, section: Section) => boolean;
const everything: Wanted = () => true;

/** Slot numbers of the groups of `records` that hold `slots`. */
const groupsOf = (slots: readonly number[], records: number): number[] => [
	...new Set(slots.map((slot) => Math.floor(slot / records) * records))
];

const bytesOf = (profile: Profile, { messageId, holds, contents }: Parcel): number =>
	messageLength(
		layoutOf(profile, messageId),
		holds.reduce((sum, { size }) => sum + size, 0),
		contents.length
	);

const togetherIn = (profile: Profile, ids: readonly string[]): number =>
	Math.max(...ids.map((id) => slotsTogether(profile, id)));

const says = (profile: Profile, messageId: string, variable: string): boolean =>
	layoutOf(profile, messageId).parts.some(({ part }) =>
		variablesIn(part).some((each) => each.variable === variable)
	);

/** An ask with its place on the line of units. */
type Offer<T> = Stretch & { items: T[] };

/** One request for these messages, or what is started by hand. */
function ask(
	profile: Profile,
	way: CaptureWay,
	firsts: number[],
	together: number,
	parcels: readonly Parcel[],
	request: Variables
): Ask {
	const ids = messagesOf(way.expect);
	const { asked, told, restMs, reads } = aside(profile, way.area, ids[0]);
	const sent = way.start.by === 'request' ? layoutOf(profile, way.start.send).length : 0;
	return {
		way,
		area: way.area,
		firsts,
		records: together,
		brings: parcels.flatMap(({ holds }) => holds),
		request,
		messages: parcels.length,
		requestBytes: way.start.by === 'request' ? sent + asked : 0,
		replyBytes:
			parcels.reduce((sum, parcel) => sum + bytesOf(profile, parcel), 0) +
			(way.start.by === 'request' ? told : 0),
		restMs: restMs + way.gapMs,
		reads,
		longest: Math.max(0, ...parcels.map((parcel) => bytesOf(profile, parcel)))
	};
}

/** What one way can bring of these slots. */
function offersFor(profile: Profile, way: CaptureWay, slots: readonly number[], units: Units): Offer<Ask>[] {
	const ids = messagesOf(way.expect);
	// What lists its slots, and is asked for without naming any, brings all of them.
	const brings = ids.map((id) => layoutOf(profile, id).carrier?.part.part);
	const isList =
		brings.includes('listed') && !(way.start.by === 'request' && says(profile, way.start.send, 'slot'));
	const everySlot = Array.from({ length: areaOf(profile, way.area).slots }, (_, i) => i);
	const together = isList ? everySlot.length : togetherIn(profile, ids);
	const parcelsFrom = (first: number) =>
		ids.flatMap((id) => parcelsOf(profile, id, way.area, first, way.most, isList ? everySlot : [first]));
	if (way.start.by === 'panel') {
		// A panel dump sends the whole area, whatever was wanted.
		const { slots: all } = areaOf(profile, way.area);
		const firsts = groupsOf(
			Array.from({ length: all }, (_, i) => i),
			together
		);
		return [offer(units, 0, all, [ask(profile, way, firsts, together, firsts.flatMap(parcelsFrom), {})])];
	}
	const { send } = way.start;
	return groupsOf(slots, together).flatMap((first) => {
		const parcels = parcelsFrom(first);
		const asks = says(profile, send, 'address')
			? addressAsks(profile, way, first, units)
			: says(profile, send, 'part') || says(profile, send, 'packet')
				? parcels.map((parcel) => ask(profile, way, [first], together, [parcel], parcel.variables))
				: [ask(profile, way, [first], together, parcels, { slot: first })];
		if (together > 1) return [offer(units, first, first + together, asks)];
		return bySections(units, first, asks);
	});
}

/** Requests by address: for each section of a slot, or for all of it at once. */
function addressAsks(profile: Profile, way: CaptureWay, slot: number, units: Units): Ask[] {
	const [id] = messagesOf(way.expect);
	const parcelOf = (variables: Variables, span: Span): Parcel => ({
		messageId: id,
		variables,
		contents: [],
		holds: [span]
	});
	const sections = units.sections.map(({ at, size }) =>
		addressed(profile, way.area, { slot, at, size }, way.most ?? Infinity)
	);
	if (way.covers !== 'slot')
		return sections
			.flat()
			.map(({ variables, span }) => ask(profile, way, [slot], 1, [parcelOf(variables, span)], variables));
	const all = sections.flat();
	const from = Math.min(...all.map(({ variables }) => variables.address!));
	const end = Math.max(...all.map(({ variables }) => variables.address! + variables.size!));
	return [
		ask(
			profile,
			way,
			[slot],
			1,
			all.map(({ variables, span }) => parcelOf(variables, span)),
			{ slot, address: from, size: end - from }
		)
	];
}

const offer = (units: Units, first: number, end: number, items: Ask[]): Offer<Ask> => ({
	first: units.at(first),
	end: units.at(end),
	cost: items.reduce((sum, item) => sum + askMs(item), 0),
	items
});

/** Asks of one slot as offers for the sections that they bring; those that bring only parts of a section together. */
function bySections(units: Units, slot: number, asks: readonly Ask[]): Offer<Ask>[] {
	const offers = new Map<string, Offer<Ask>>();
	for (const each of asks) {
		const [from, to] = units.reach(each.brings);
		const key = `${from}:${to}`;
		const found = offers.get(key);
		if (found) {
			found.items.push(each);
			found.cost += askMs(each);
		} else
			offers.set(key, {
				first: units.at(slot, from),
				end: units.at(slot, to),
				cost: askMs(each),
				items: [each]
			});
	}
	return [...offers.values()];
}

interface Aside {
	asked: number;
	told: number;
	restMs: number;
	reads: 1 | 2;
}

/** Bytes that go back and forth so that the panel stands where a dump that names no slot belongs. */
function aside(profile: Profile, area: string, messageId: string): Aside {
	const { panel, called, recall } = areaOf(profile, area);
	const { ofPanel } = layoutOf(profile, messageId);
	if (ofPanel && called) {
		// Bank select and program change.
		const asked = Math.max(
			...recall!.map(({ msb, lsb }) => 2 + (msb === undefined ? 0 : 3) + (lsb === undefined ? 0 : 3))
		);
		return { asked, told: 0, restMs: called.settleMs, reads: 2 };
	}
	if (!panel || !ofPanel) return { asked: 0, told: 0, restMs: 0, reads: 1 };
	const length = (id: string | undefined) => (id === undefined ? 0 : layoutOf(profile, id).length);
	// Asked before it is called up, after that, and after the dump.
	return {
		asked: 3 * length(panel.ask) + length(panel.select),
		told: 3 * length(panel.says),
		restMs: 0,
		reads: 1
	};
}

const askMs = ({ requestBytes, replyBytes, restMs }: Ask): number =>
	wireMs(requestBytes + replyBytes) + restMs;

/**
 * How to ask a device for these slots in the least time, and the areas that it cannot be asked for. Ways are mixed
 * where that is faster: single slots here, a whole bank there.
 * @param wants which sections of them; all where nothing else is said
 */
export function planCapture(
	profile: Profile,
	wanted: SlotSet,
	wants: Wanted = everything
): { asks: Ask[]; impossible: string[] } {
	const asks: Ask[] = [];
	const impossible: string[] = [];
	for (const [area, slots] of wanted) {
		const units = new Units(profile, area);
		const wantedUnits = units.of(slots, (slot, section) => wants(area, slot, section));
		if (wantedUnits.length === 0) continue;
		const offers = profile.capture
			.filter((way) => way.area === area)
			.flatMap((way) => offersFor(profile, way, slots, units));
		const cover = cheapestCover(wantedUnits, offers);
		if (cover) asks.push(...cover.flatMap(({ items }) => items));
		else impossible.push(area);
	}
	return { asks, impossible };
}

/** Bytes and milliseconds that asking once takes on the wire, the device's own pauses aside. */
export const askingCost = (asks: readonly Ask[]): { bytes: number; ms: number } => ({
	bytes: asks.reduce((sum, ask) => sum + ask.replyBytes, 0),
	ms: asks.reduce((sum, ask) => sum + askMs(ask), 0)
});

/** Bytes that a plan brings, and the milliseconds that it takes until they are believed. */
export const captureCost = (asks: readonly Ask[]): { bytes: number; ms: number } => ({
	bytes: askingCost(asks).bytes,
	ms: asks.reduce((sum, ask) => sum + askMs(ask) * ask.reads, 0)
});

/** What one way brings of a slot. */
export const asksBy = (profile: Profile, way: CaptureWay, slot: number): Ask[] =>
	offersFor(profile, way, [slot], new Units(profile, way.area)).flatMap(({ items }) => items);

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
		const all = ids.flatMap((id) => parcelsOf(profile, id, way.area, first, way.most));
		// What travels alone and is already as it shall be stays at home.
		const differing = all.filter(({ holds }) => holds.some((span) => differs(way.area, span)));
		if (differing.length === 0) return [];
		const write = writeOf(profile, way, first, together, way.begin ? all : differing);
		const [from, to] =
			together > 1 ? [0, units.sections.length] : units.reach(all.flatMap(({ holds }) => holds));
		return [
			{
				first: units.at(first, from),
				end: units.at(first + together - 1, to),
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

/** All slots of both. */
export const joined = (one: SlotSet, other: SlotSet): SlotSet =>
	new Map(
		[...new Set([...one.keys(), ...other.keys()])].map((area) => [
			area,
			[...new Set([...(one.get(area) ?? []), ...(other.get(area) ?? [])])]
		])
	);
