import { wireMs } from '../midi';
import { areaOf, layoutOf, type CaptureWay, type Profile, type RestoreWay } from '../profile';
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
	if (way.start.by === 'panel') {
		// A panel dump sends the whole area, whatever was wanted.
		const firsts = groupsOf(
			Array.from({ length: areaOf(profile, way.area).slots }, (_, i) => i),
			records
		);
		return [{ way, area: way.area, firsts, records, requestBytes: 0, replyBytes: length * firsts.length }];
	}
	const request = layoutOf(profile, way.start.send).length;
	return groupsOf(slots, records).map((first) => ({
		way,
		area: way.area,
		firsts: [first],
		records,
		requestBytes: request,
		replyBytes: length
	}));
}

const askMs = (ask: Ask) => wireMs(ask.requestBytes + ask.replyBytes) + ask.way.gapMs;

/** How to ask a device for these slots in the least time, and the areas that it cannot be asked for. */
export function planCapture(profile: Profile, wanted: SlotSet): { asks: Ask[]; impossible: string[] } {
	const asks: Ask[] = [];
	const impossible: string[] = [];
	for (const [area, slots] of wanted) {
		if (slots.length === 0) continue;
		const plans = profile.capture
			.filter((way) => way.area === area)
			.map((way) => asksFor(profile, way, slots));
		if (plans.length === 0) {
			impossible.push(area);
			continue;
		}
		const cost = (plan: Ask[]) => plan.reduce((sum, ask) => sum + askMs(ask), 0);
		asks.push(...plans.reduce((best, plan) => (cost(plan) < cost(best) ? plan : best)));
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
 * How to write these slots in the least time. `known` tells whether the content of a slot is at hand: a way that
 * writes several slots at once needs all of them.
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
		const plans = profile.restore
			.filter((way) => way.area === area)
			.map((way): Write[] => {
				const records = recordsIn(profile, way.send);
				return groupsOf(slots, records).map((first) => ({
					way,
					area,
					first,
					records,
					bytes: layoutOf(profile, way.send).length
				}));
			})
			.filter((plan) => plan.every((write) => slotsOf(write).every((slot) => known(area, slot))));
		if (plans.length === 0) {
			impossible.push(area);
			continue;
		}
		const cost = (plan: Write[]) => plan.reduce((sum, write) => sum + writeMs(write), 0);
		writes.push(...plans.reduce((best, plan) => (cost(plan) < cost(best) ? plan : best)));
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
