import { wireMs } from '../midi';
import {
	addressed,
	areaOf,
	layoutOf,
	messagesOf,
	parcelsFor,
	parcelsOf,
	says,
	believedTwice,
	type CaptureWay,
	type Parcel,
	type Profile,
	type Section,
	type Span,
	type Variables
} from '../profile';
import { cheapestCover } from './cover';
import { everySlot, type SlotSet } from './scope';
import { bytesOf, groupsOf, togetherIn, type Offer } from './travel';
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
	const lengths = parcels.map((parcel) => bytesOf(profile, parcel));
	const reply = lengths.reduce((sum, length) => sum + length, 0);
	return {
		way,
		area: way.area,
		firsts,
		records: together,
		brings: parcels.flatMap(({ holds }) => holds),
		request,
		messages: parcels.length,
		requestBytes: way.start.by === 'request' ? layoutOf(profile, way.start.send).length + asked : 0,
		replyBytes: reply + (way.start.by === 'request' ? told : 0),
		restMs: restMs + way.gapMs,
		reads,
		longest: Math.max(0, ...lengths)
	};
}

/** What one way can bring of these slots. */
function offersFor(profile: Profile, way: CaptureWay, slots: readonly number[], units: Units): Offer<Ask>[] {
	const ids = messagesOf(way.expect);
	// What lists its slots, and is asked for without naming any, brings all of them.
	const brings = ids.map((id) => layoutOf(profile, id).carrier?.part.part);
	const isList =
		brings.includes('listed') &&
		!(way.start.by === 'request' && says(profile.messages[way.start.send], 'slot'));
	const all = everySlot(profile, way.area);
	const together = isList ? all.length : togetherIn(profile, ids);
	const parcelsFrom = (first: number) =>
		isList
			? ids.flatMap((id) => parcelsOf(profile, id, way.area, first, way.most, all))
			: parcelsFor(profile, ids, way.area, first, together, way.most);
	if (way.start.by === 'panel') {
		// A panel dump sends the whole area, whatever was wanted.
		const firsts = groupsOf(all, together);
		return [
			offer(units, 0, all.length - 1, [ask(profile, way, firsts, together, firsts.flatMap(parcelsFrom), {})])
		];
	}
	const { send } = way.start;
	return groupsOf(slots, together).flatMap((first) => {
		const parcels = parcelsFrom(first);
		const asks = says(profile.messages[send], 'address')
			? addressAsks(profile, way, first, units)
			: says(profile.messages[send], 'part') || says(profile.messages[send], 'packet')
				? parcels.map((parcel) => ask(profile, way, [first], together, [parcel], parcel.variables))
				: [ask(profile, way, [first], together, parcels, { slot: first })];
		if (together > 1) return [offer(units, first, first + together - 1, asks)];
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
	const cuts = units.sections.flatMap(({ at, size }) =>
		addressed(profile, way.area, { slot, at, size }, way.most ?? Infinity)
	);
	if (way.covers !== 'slot')
		return cuts.map(({ variables, span }) =>
			ask(profile, way, [slot], 1, [parcelOf(variables, span)], variables)
		);
	const from = Math.min(...cuts.map(({ variables }) => variables.address!));
	const end = Math.max(...cuts.map(({ variables }) => variables.address! + variables.size!));
	return [
		ask(
			profile,
			way,
			[slot],
			1,
			cuts.map(({ variables, span }) => parcelOf(variables, span)),
			{ slot, address: from, size: end - from }
		)
	];
}

/** What asks bring of all slots of a row. */
const offer = (units: Units, first: number, last: number, items: Ask[]): Offer<Ask> => ({
	...units.stretch(first, last, units.reach(items.flatMap(({ brings }) => brings))),
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
				...units.stretch(slot, slot, [from, to]),
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

/** About what is said around a property, and of a slot in a list of titles. */
const PROPERTY_BYTES = 100;
const TITLE_BYTES = 90;

/** Bytes that go back and forth so that the panel stands where a dump that names no slot belongs. */
function aside(profile: Profile, area: string, messageId: string): Aside {
	const { panel, called, recall, described } = areaOf(profile, area);
	// Everything is read twice where something has no checksum.
	const reads = believedTwice(profile) ? 2 : 1;
	const { ofPanel } = layoutOf(profile, messageId);
	if (ofPanel && called) {
		// Bank select and program change.
		const asked = Math.max(
			...recall!.map(({ msb, lsb }) => 2 + (msb === undefined ? 0 : 3) + (lsb === undefined ? 0 : 3))
		);
		return { asked, told: 0, restMs: called.settleMs, reads: 2 };
	}
	if (described) return { asked: PROPERTY_BYTES, told: PROPERTY_BYTES + TITLE_BYTES, restMs: 0, reads };
	if (!panel || !ofPanel) return { asked: 0, told: 0, restMs: 0, reads };
	const length = (id: string | undefined) => (id === undefined ? 0 : layoutOf(profile, id).length);
	// Asked before it is called up, after that, and after the dump.
	return {
		asked: 3 * length(panel.ask) + length(panel.select),
		told: 3 * length(panel.says),
		restMs: 0,
		reads
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
