import { joinBytes } from '../midi';
import { finished, Pace, type Steps } from '../steps';
import { Assembly } from './assembly';
import { buildMessage } from './build';
import { readName } from './charset';
import type { Variables } from './carrier';
import { layoutOf } from './layout';
import { isMatch, matchAny, type Match, type Mismatch } from './match';
import { placeNamed, withName } from './named-slots';
import { messagesOf, parcelsFor, slotsTogether } from './parcels';
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
	/** Slots of which only a part came, with the names of what is missing. */
	partial: PartialSlot[];
}

/** A slot of which not everything came. */
export interface PartialSlot {
	area: string;
	index: number;
	label: string;
	missing: string[];
}

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
export const decodeDump = (profile: Profile, messages: readonly Uint8Array[]): Dump =>
	finished(decoding(profile, messages));

/** The same with pauses. */
export function* decoding(profile: Profile, messages: readonly Uint8Array[]): Steps<Dump> {
	const assembly = new Assembly(profile);
	const found: (Match | Mismatch)[] = [];
	const pace = new Pace();
	for (const bytes of messages) {
		if (pace.due(bytes.length)) yield;
		found.push(matchAny(profile, bytes));
	}
	const placed = placeNamed(
		profile,
		found.map((each) => (isMatch(each) ? each : null))
	);
	const read: DumpMessage[] = [];
	for (const [i, match] of placed.entries()) {
		if (pace.due(messages[i].length)) yield;
		match?.pieces.forEach((piece) => assembly.put(piece));
		read.push(match ? { read: true, match } : { read: false, bytes: messages[i], why: found[i] as Mismatch });
	}
	const order = new Map(profile.areas.map((area, i) => [area.id, i]));
	const slots: Slot[] = [];
	const partial: PartialSlot[] = [];
	for (const { area, slot, whole } of assembly.slots) {
		if (pace.due(whole?.length ?? 0)) yield;
		if (whole) slots.push(makeSlot(profile, area, slot, whole));
		else
			partial.push({
				area,
				index: slot,
				label: slotLabel(areaOf(profile, area).labels, slot),
				missing: assembly.missingSections(area, slot).map(({ name }) => name)
			});
	}
	const inOrder = (a: { area: string; index: number }, b: { area: string; index: number }) =>
		order.get(a.area)! - order.get(b.area)! || a.index - b.index;
	return { messages: read, slots: slots.sort(inOrder), partial: partial.sort(inOrder) };
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
		if (!message.read || message.match.pieces.length > 0) return [];
		const { ofPanel, carrier } = layoutOf(profile, message.match.messageId);
		return ofPanel ? [{ message: i, area: carrier!.area!, bytes: message.match.memory }] : [];
	});

/** The messages with what names the slot before each dump that was placed, as the device itself would say it. */
export function placeDumps(
	profile: Profile,
	messages: readonly Uint8Array[],
	places: readonly { message: number; slot: number }[]
): Uint8Array[] {
	const slots = new Map(places.map(({ message, slot }) => [message, slot]));
	return messages.flatMap((bytes, i) => {
		const slot = slots.get(i);
		if (slot === undefined) return [bytes];
		const match = matchAny(profile, bytes);
		if (!isMatch(match)) return [bytes];
		const { deviceId = profile.addressing.deviceId?.default ?? 0 } = match.variables;
		return withName(profile, match.messageId, { deviceId, channel: 1, slot }, bytes);
	});
}

/** The exact inverse of `decodeDump`: the same messages, byte for byte. */
export function encodeDump(profile: Profile, dump: Dump): Uint8Array[] {
	return dump.messages.map((message) =>
		message.read
			? buildMessage(
					profile,
					message.match.messageId,
					message.match.variables,
					message.match.memory,
					message.match.contents
				)
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
		let best: Uint8Array[] | null = null;
		for (const kinds of kindsFor(profile, area.id)) {
			const built = carried(profile, kinds, area.id, have, variables);
			if (built && (!best || total(built) < total(best))) best = built;
		}
		if (best) messages.push(...best);
	}
	return messages;
}

const total = (messages: Uint8Array[]) => messages.reduce((sum, message) => sum + message.length, 0);

interface Kind {
	id: string;
	most?: number;
}

/** The kinds of messages in which an area can travel: those of each way, and those of all ways that carry a section each. */
function kindsFor(profile: Profile, area: string): Kind[][] {
	const ways = [
		...profile.restore.map((way) => ({ area: way.area, ids: messagesOf(way.send), most: way.most })),
		...profile.capture.map((way) => ({ area: way.area, ids: messagesOf(way.expect), most: way.most }))
	].filter((way) => way.area === area);
	const each = ways.map(({ ids, most }) => ids.map((id): Kind => ({ id, most })));
	const sections = each
		.flat()
		.filter(({ id }) => ['section', 'column'].includes(layoutOf(profile, id).carrier?.part.part ?? ''));
	const once = sections.filter(({ id }, i) => sections.findIndex((other) => other.id === id) === i);
	return once.length > 0 ? [...each, once] : each;
}

/** The messages of these kinds that carry all of these records; null where they do not. */
function carried(
	profile: Profile,
	kinds: readonly Kind[],
	area: string,
	have: Map<number, Uint8Array>,
	variables: Variables
): Uint8Array[] | null {
	const built: Uint8Array[] = [];
	const assembly = new Assembly(profile);
	const together = Math.max(...kinds.map(({ id }) => slotsTogether(profile, id)));
	const groups = new Set(
		[...have.keys()].sort((a, b) => a - b).map((slot) => Math.floor(slot / together) * together)
	);
	for (const first of groups)
		for (const { id, most } of kinds)
			for (const parcel of parcelsFor(profile, [id], area, first, together, most)) {
				const to = { ...variables, ...parcel.variables };
				const bytes = parcel.holds.map(({ slot, at, size }) => have.get(slot)?.subarray(at, at + size));
				if (bytes.some((each) => each === undefined)) return null;
				parcel.holds.forEach(({ slot, at }, i) => assembly.put({ area, slot, at, bytes: bytes[i]! }));
				const message = buildMessage(profile, id, to, joinBytes(bytes as Uint8Array[]), parcel.contents);
				built.push(...withName(profile, id, to, message));
			}
	return [...have.keys()].every((slot) => assembly.whole(area, slot)) ? built : null;
}
