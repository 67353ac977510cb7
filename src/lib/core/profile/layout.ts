import { Problem } from '../problem';
import { fromHex, joinBytes } from '../midi';
import { CHECKSUMS, PACKINGS } from '../sysex';
import type { MessagePart, Profile } from './schema';
import { areaOf } from './slots';

/** What the variables of a message stand for; slot counts from 0, channel from 1, deviceId as on the wire. */
export interface Variables {
	deviceId?: number;
	channel?: number;
	slot?: number;
}

/** A part with its place in the message. */
export interface PlacedPart {
	part: MessagePart;
	start: number;
	length: number;
	fixed: Uint8Array | null;
}

export interface Layout {
	id: string;
	title: string;
	length: number;
	parts: PlacedPart[];
	body: { area: string; records: number; recordSize: number; start: number; length: number } | null;
	/** Whether the message says which slot it is for. */
	hasSlot: boolean;
	/** Whether it is of the slot that the panel stands at, whichever that is. */
	ofPanel: boolean;
}

const compiled = new WeakMap<Profile, Map<string, Layout>>();

/** Whether a message says which slot it is about. */
export const namesSlot = ({ parts }: Profile['messages'][string]): boolean =>
	parts.some((part) => part.part === 'variable' && part.variable === 'slot');

function compile(profile: Profile, id: string): Layout {
	const message = profile.messages[id];
	let at = 0;
	let body: Layout['body'] = null;
	const parts = message.parts.map((part): PlacedPart => {
		const fixed = part.part === 'bytes' ? fromHex(part.bytes) : null;
		let length: number;
		if (part.part === 'bytes') length = fixed!.length;
		else if (part.part === 'variable') length = part.width;
		else if (part.part === 'checksum') length = CHECKSUMS[part.checksum].width;
		else {
			const recordSize = profile.records[areaOf(profile, part.area).record].size;
			length = PACKINGS[part.packing].packedLength(recordSize * part.records);
			body = { area: part.area, records: part.records, recordSize, start: at, length };
		}
		const placed = { part, start: at, length, fixed };
		at += length;
		return placed;
	});
	const hasSlot = namesSlot(message);
	const bodyPart = message.parts.find((part) => part.part === 'body');
	const area = bodyPart && areaOf(profile, bodyPart.area);
	return {
		id,
		title: message.title,
		length: at,
		parts,
		body,
		hasSlot,
		ofPanel: area?.panel !== undefined && !hasSlot && area.editBuffer?.send !== id
	};
}

/** The layout of one message of a profile, worked out once. @throws Problem `profile.no-message` */
export function layoutOf(profile: Profile, id: string): Layout {
	if (!profile.messages[id])
		throw new Problem(
			'profile.no-message',
			`The profile of the ${profile.model} has no message “${id}”.`,
			'Correct the profile.'
		);
	let layouts = compiled.get(profile);
	if (!layouts) compiled.set(profile, (layouts = new Map()));
	let layout = layouts.get(id);
	if (!layout) layouts.set(id, (layout = compile(profile, id)));
	return layout;
}

/** All layouts of a profile. */
export const layoutsOf = (profile: Profile): Layout[] =>
	Object.keys(profile.messages).map((id) => layoutOf(profile, id));

function variableBytes(part: Extract<MessagePart, { part: 'variable' }>, variables: Variables): number[] {
	const value = variables[part.variable];
	if (value === undefined)
		throw new Problem('message.variable', `The message needs a ${part.variable}.`, 'Say which one.');
	const wire = Math.floor((part.variable === 'channel' ? value - 1 : value) / part.divide) + part.add;
	if (wire < 0 || wire >= 128 ** part.width)
		throw new Problem(
			'message.variable',
			`${part.variable} ${value} does not fit in the message.`,
			'Choose a smaller one.'
		);
	return part.width === 1 ? [wire] : [wire >> 7, wire & 0x7f];
}

const checksumRange = (
	layout: Layout,
	part: Extract<MessagePart, { part: 'checksum' }>
): [number, number] => {
	const from = layout.parts.find((placed) => placed.part.name === part.from)!;
	const to = layout.parts.find((placed) => placed.part.name === part.to)!;
	return [from.start, to.start + to.length];
};

/**
 * Builds a message. `records` are the memory bytes of the body, one array a slot, in slot order.
 * @throws Problem where a variable is missing or a record has the wrong size
 */
export function buildMessage(
	profile: Profile,
	id: string,
	variables: Variables,
	records: readonly Uint8Array[] = []
): Uint8Array {
	const layout = layoutOf(profile, id);
	const out = new Uint8Array(layout.length);
	for (const { part, start, fixed } of layout.parts) {
		if (part.part === 'bytes') out.set(fixed!, start);
		else if (part.part === 'variable') out.set(variableBytes(part, variables), start);
		else if (part.part === 'body') {
			if (
				records.length !== part.records ||
				records.some((record) => record.length !== layout.body!.recordSize)
			)
				throw new Problem(
					'message.records',
					`“${layout.title}” holds ${part.records} records of ${layout.body!.recordSize} bytes.`,
					'Give it exactly these.'
				);
			out.set(PACKINGS[part.packing].pack(joinBytes(records)), start);
		}
	}
	for (const { part, start } of layout.parts)
		if (part.part === 'checksum')
			out.set(CHECKSUMS[part.checksum].of(out.subarray(...checksumRange(layout, part))), start);
	return out;
}

export interface Match {
	messageId: string;
	title: string;
	variables: Variables;
	/** Area and first slot of the records; no area where they are for the edit buffer, or for a slot that the message does not name. */
	area: string | null;
	firstSlot: number;
	records: Uint8Array[];
}

/** Why bytes are not that message; `at` is the first byte that disagrees. */
export interface Mismatch {
	why: 'other message' | 'length' | 'checksum' | 'content';
	at: number;
	says: string;
}

export const isMatch = (result: Match | Mismatch): result is Match => 'messageId' in result;

/**
 * Reads `bytes` as one message of the profile. A match builds back to the same bytes: what could not be rebuilt
 * exactly (a wrong checksum, stray bits, a slot that does not exist) is a mismatch.
 */
export function matchMessage(profile: Profile, id: string, bytes: Uint8Array): Match | Mismatch {
	const layout = layoutOf(profile, id);
	const head = layout.parts[0].fixed!;
	for (let i = 0; i < head.length; i++)
		if (bytes[i] !== head[i])
			return { why: 'other message', at: i, says: `it does not begin as a “${layout.title}”` };
	const variables: Variables = {};
	for (const { part, start, length, fixed } of layout.parts) {
		if (start + length > bytes.length)
			return {
				why: 'length',
				at: bytes.length,
				says: `${bytes.length} bytes, “${layout.title}” has ${layout.length}`
			};
		if (fixed) {
			for (let i = 0; i < length; i++)
				if (bytes[start + i] !== fixed[i])
					return part === layout.parts[layout.parts.length - 1].part
						? {
								why: 'length',
								at: start + i,
								says: `${bytes.length} bytes, “${layout.title}” has ${layout.length}`
							}
						: {
								why: 'other message',
								at: start + i,
								says: `byte ${start + i} is not that of a “${layout.title}”`
							};
		} else if (part.part === 'variable') {
			const wire = part.width === 1 ? bytes[start] : (bytes[start] << 7) | bytes[start + 1];
			const value = (wire - part.add) * part.divide + (part.variable === 'channel' ? 1 : 0);
			if (value < 0)
				return { why: 'other message', at: start, says: `its ${part.variable} is below the first` };
			variables[part.variable] = value;
		}
	}
	for (let i = 1; i < bytes.length - 1; i++)
		if (bytes[i] > 0x7f)
			return { why: 'content', at: i, says: `a status byte stands at byte ${i}, inside the message` };
	if (bytes.length !== layout.length)
		return {
			why: 'length',
			at: Math.min(bytes.length, layout.length),
			says: `${bytes.length} bytes, “${layout.title}” has ${layout.length}`
		};
	for (const { part, start, length } of layout.parts) {
		if (part.part !== 'checksum') continue;
		const right = CHECKSUMS[part.checksum].of(bytes.subarray(...checksumRange(layout, part)));
		for (let i = 0; i < length; i++)
			if (bytes[start + i] !== right[i])
				return {
					why: 'checksum',
					at: start + i,
					says: `checksum ${bytes[start + i]}, the data give ${right[i]}`
				};
	}
	const { body } = layout;
	const match: Match = {
		messageId: id,
		title: layout.title,
		variables,
		area: !body || layout.ofPanel || areaOf(profile, body.area).editBuffer?.send === id ? null : body.area,
		firstSlot: variables.slot ?? 0,
		records: []
	};
	if (!body) return match;
	const packing = layout.parts.find(({ part }) => part.part === 'body')!.part as Extract<
		MessagePart,
		{ part: 'body' }
	>;
	if (match.area !== null && match.firstSlot + body.records > areaOf(profile, body.area).slots)
		return { why: 'content', at: 0, says: `it names slot ${match.firstSlot + 1}, which does not exist` };
	try {
		const memory = PACKINGS[packing.packing].unpack(bytes.subarray(body.start, body.start + body.length));
		for (let i = 0; i < body.records; i++)
			match.records.push(memory.slice(i * body.recordSize, (i + 1) * body.recordSize));
	} catch (error) {
		if (error instanceof Problem)
			return { why: 'content', at: body.start + Number(error.detail.offset ?? 0), says: error.message };
		throw error;
	}
	return match;
}

/** The message of the profile that `bytes` are, or the nearest mismatch. */
export function matchAny(profile: Profile, bytes: Uint8Array): Match | Mismatch {
	let nearest: Mismatch = { why: 'other message', at: 0, says: `it is no message of a ${profile.model}` };
	for (const layout of layoutsOf(profile)) {
		const result = matchMessage(profile, layout.id, bytes);
		if (isMatch(result)) return result;
		if (result.why !== 'other message' && (nearest.why === 'other message' || result.at > nearest.at))
			nearest = result;
	}
	return nearest;
}

/** Where a message carries the device ID, or -1. */
export function deviceIdOffset(profile: Profile, id: string): number {
	return (
		layoutOf(profile, id).parts.find(({ part }) => part.part === 'variable' && part.variable === 'deviceId')
			?.start ?? -1
	);
}
