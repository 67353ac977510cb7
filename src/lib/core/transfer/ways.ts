import { wireMs } from '../midi';
import { areaOf, layoutOf, type CaptureWay, type Profile, type RestoreWay } from '../profile';
import { cheapestCover } from './cover';
import type { SlotSet } from './scope';

/** One thing to ask a device for. */
export interface Ask {
	way: CaptureWay;
	area: string;
	/** First slots of the messages expected: one for a request, all for a dump started at the panel. */
	firsts: number[];
	/** Slots in each message. */
	records: number;
	requestBytes: number;
	replyBytes: number;
}

/** Slot numbers of the groups of `records` that hold `slots`. */
const groupsOf = (slots: readonly number[], records: number): number[] => [
	...new Set(slots.map((slot) => Math.floor(slot / records) * records))
];

const recordsIn = (profile: Profile, message: string) => layoutOf(profile, message).body?.records ?? 1;

function asksFor(profile: Profile, way: CaptureWay, slots: readonly number[]): Ask[] {
	const records = recordsIn(profile, way.expect);
	const length = layoutOf(profile, way.expect).length;
	const { asked, told } = aside(profile, way.area, way.expect);
	if (way.start.by === 'panel') {
		// A panel dump sends the whole area, whatever was wanted.
		const firsts = groupsOf(
			Array.from({ length: areaOf(profile, way.area).slots }, (_, i) => i),
			records
		);
		return [{ way, area: way.area, firsts, records, requestBytes: 0, replyBytes: length * firsts.length }];
	}
	const request = layoutOf(profile, way.start.send).length + asked;
	return groupsOf(slots, records).map((first) => ({
		way,
		area: way.area,
		firsts: [first],
		records,
		requestBytes: request,
		replyBytes: length + told
	}));
}

/** Bytes that go back and forth so that the panel stands where a dump that names no slot belongs. */
function aside(profile: Profile, area: string, messageId: string): { asked: number; told: number } {
	const { panel } = areaOf(profile, area);
	if (!panel || !layoutOf(profile, messageId).ofPanel) return { asked: 0, told: 0 };
	const length = (id: string | undefined) => (id === undefined ? 0 : layoutOf(profile, id).length);
	// Asked before it is called up, after that, and after the dump.
	return { asked: 3 * length(panel.ask) + length(panel.select), told: 3 * length(panel.says) };
}

const askMs = (ask: Ask) => wireMs(ask.requestBytes + ask.replyBytes) + ask.way.gapMs;

/**
 * How to ask a device for these slots in the least time, and the areas that it cannot be asked for. Ways are mixed
 * where that is faster: single slots here, a whole bank there.
 */
export function planCapture(profile: Profile, wanted: SlotSet): { asks: Ask[]; impossible: string[] } {
	const asks: Ask[] = [];
	const impossible: string[] = [];
	for (const [area, slots] of wanted) {
		if (slots.length === 0) continue;
		const offers = profile.capture
			.filter((way) => way.area === area)
			.flatMap((way) => asksFor(profile, way, slots))
			.map((ask) => ({
				first: Math.min(...ask.firsts),
				end: Math.max(...ask.firsts) + ask.records,
				cost: askMs(ask),
				ask
			}));
		const cover = cheapestCover(slots, offers);
		if (cover) asks.push(...cover.map(({ ask }) => ask));
		else impossible.push(area);
	}
	return { asks, impossible };
}

/** Bytes and milliseconds that a plan takes on the wire, the device's own pauses aside. */
export function captureCost(asks: readonly Ask[]): { bytes: number; ms: number } {
	return {
		bytes: asks.reduce((sum, ask) => sum + ask.replyBytes, 0),
		ms: asks.reduce((sum, ask) => sum + askMs(ask), 0)
	};
}

/** One message to write. */
export interface Write {
	way: RestoreWay;
	area: string;
	first: number;
	records: number;
	bytes: number;
}

export const writeMs = (write: Write, paceFactor = 1): number => {
	const { chunk } = write.way;
	const pauses = chunk ? Math.max(0, Math.ceil(write.bytes / chunk.bytes) - 1) * chunk.gapMs : 0;
	return wireMs(write.bytes) + (pauses + write.way.gapMs) * paceFactor;
};

/**
 * How to write these slots in the least time, single messages and whole banks mixed where that is faster. `known`
 * tells whether the content of a slot is at hand: a way that writes several slots at once needs all of them.
 */
export function planRestore(
	profile: Profile,
	wanted: SlotSet,
	known: (area: string, index: number) => boolean
): { writes: Write[]; impossible: string[] } {
	const writes: Write[] = [];
	const impossible: string[] = [];
	for (const [area, slots] of wanted) {
		if (slots.length === 0) continue;
		const offers = profile.restore
			.filter((way) => way.area === area)
			.flatMap((way) => {
				const records = recordsIn(profile, way.send);
				const bytes = layoutOf(profile, way.send).length;
				return groupsOf(slots, records).map((first): Write => ({ way, area, first, records, bytes }));
			})
			.filter((write) => slotsOf(write).every((slot) => known(area, slot)))
			.map((write) => ({
				first: write.first,
				end: write.first + write.records,
				cost: writeMs(write),
				write
			}));
		const cover = cheapestCover(slots, offers);
		if (cover) writes.push(...cover.map(({ write }) => write));
		else impossible.push(area);
	}
	return { writes, impossible };
}

/** The slots that a write overwrites. */
export const slotsOf = (write: Write): number[] =>
	Array.from({ length: write.records }, (_, i) => write.first + i);

/** Slots by area that a row of writes overwrites. */
export function affectedSlots(writes: readonly Write[]): SlotSet {
	const set: SlotSet = new Map();
	for (const write of writes) set.set(write.area, [...(set.get(write.area) ?? []), ...slotsOf(write)]);
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
