import {
	buildMessage,
	isMatch,
	layoutOf,
	matchAny,
	type Match,
	type Mismatch,
	type Variables
} from './layout';
import { readName } from './charset';
import { NamedSlots, namesBefore } from './named-slots';
import type { Profile } from './schema';
import { areaOf, slotLabel } from './slots';

/** One slot of a device's memory. */
export interface Slot {
	area: string;
	/** From 0. */
	index: number;
	/** As the panel shows it. */
	label: string;
	/** The record, unpacked. */
	bytes: Uint8Array;
	name: string | null;
}

/** A message of a dump: read by the profile, or kept as it is with the reason. */
export type DumpMessage = { read: true; match: Match } | { read: false; bytes: Uint8Array; why: Mismatch };

export interface Dump {
	messages: DumpMessage[];
	/** The slots in area order, then slot order; where several messages hold one slot, the last counts. */
	slots: Slot[];
}

export const slotKey = (area: string, index: number): string => `${area}:${index}`;

export function makeSlot(profile: Profile, area: string, index: number, bytes: Uint8Array): Slot {
	const described = areaOf(profile, area);
	return {
		area,
		index,
		label: slotLabel(described.labels, index),
		bytes,
		name: readName(profile, profile.records[described.record], bytes)
	};
}

/** Reads a row of SysEx messages with a profile. Messages that it cannot read exactly are kept raw, never dropped. */
export function decodeDump(profile: Profile, messages: readonly Uint8Array[]): Dump {
	const slots = new Map<string, Slot>();
	const named = new NamedSlots(profile);
	const read = messages.map((bytes): DumpMessage => {
		const found = matchAny(profile, bytes);
		const match = isMatch(found) ? named.place(found) : found;
		if (!isMatch(match)) return { read: false, bytes, why: match };
		const { area } = match;
		if (area !== null)
			match.records.forEach((record, i) => {
				const index = match.firstSlot + i;
				slots.set(slotKey(area, index), makeSlot(profile, area, index, record));
			});
		return { read: true, match };
	});
	const order = new Map(profile.areas.map((area, i) => [area.id, i]));
	return {
		messages: read,
		slots: [...slots.values()].sort((a, b) => order.get(a.area)! - order.get(b.area)! || a.index - b.index)
	};
}

/** A dump that does not say which slot it is of. */
export interface LooseDump {
	/** Its number among the messages, from 0. */
	message: number;
	area: string;
	bytes: Uint8Array;
}

/** The dumps of a row of messages that are of a slot which nothing names. */
export const looseDumps = (profile: Profile, { messages }: Dump): LooseDump[] =>
	messages.flatMap((message, i) => {
		if (!message.read || message.match.area !== null) return [];
		const { ofPanel, body } = layoutOf(profile, message.match.messageId);
		return ofPanel ? [{ message: i, area: body!.area, bytes: message.match.records[0] }] : [];
	});

/** The messages with what names the slot before each dump that was placed, as the device itself would say it. */
export function placeDumps(
	profile: Profile,
	messages: readonly Uint8Array[],
	places: readonly { message: number; slot: number }[]
): Uint8Array[] {
	return messages.flatMap((bytes, i) => {
		const place = places.find(({ message }) => message === i);
		const match = matchAny(profile, bytes);
		if (!place || !isMatch(match)) return [bytes];
		const { deviceId = profile.addressing.deviceId?.default ?? 0 } = match.variables;
		return [...namesBefore(profile, match.messageId, { deviceId, channel: 1, slot: place.slot }), bytes];
	});
}

/** The exact inverse of `decodeDump`: the same messages, byte for byte. */
export function encodeDump(profile: Profile, dump: Dump): Uint8Array[] {
	return dump.messages.map((message) =>
		message.read
			? buildMessage(profile, message.match.messageId, message.match.variables, message.match.records)
			: message.bytes
	);
}

/**
 * The messages that carry `slots` to a device of this profile, as its restore ways build them: the way that needs
 * the fewest bytes for each area. Slots that a way would need and that are not given make that way impossible.
 */
export function messagesFor(profile: Profile, slots: readonly Slot[], variables: Variables): Uint8Array[] {
	const messages: Uint8Array[] = [];
	for (const area of profile.areas) {
		const have = new Map(
			slots.filter((slot) => slot.area === area.id).map((slot) => [slot.index, slot.bytes])
		);
		if (have.size === 0) continue;
		const ways = [...profile.restore.map((way) => way.send), ...profile.capture.map((way) => way.expect)];
		let best: Uint8Array[] | null = null;
		for (const id of new Set(ways)) {
			const body = profile.messages[id].parts.find((part) => part.part === 'body');
			if (body?.area !== area.id) continue;
			const built = cover(profile, id, body.records, area.slots, have, variables);
			if (built && (!best || total(built) < total(best))) best = built;
		}
		if (best) messages.push(...best);
	}
	return messages;
}

const total = (messages: Uint8Array[]) => messages.reduce((sum, message) => sum + message.length, 0);

function cover(
	profile: Profile,
	id: string,
	records: number,
	slots: number,
	have: Map<number, Uint8Array>,
	variables: Variables
) {
	const built: Uint8Array[] = [];
	for (let first = 0; first < slots; first += records) {
		const group = Array.from({ length: records }, (_, i) => have.get(first + i));
		if (group.every((record) => record === undefined)) continue;
		if (group.some((record) => record === undefined)) return null;
		const to = { ...variables, slot: first };
		built.push(...namesBefore(profile, id, to), buildMessage(profile, id, to, group as Uint8Array[]));
	}
	return built;
}
