import { Problem } from '../problem';
import { fromHex } from '../midi';
import { carrierIn, checksumFor, isCarrier, memoryLength, wireLength, type Carrier } from './carrier';
import type { MessagePart, Profile, VariableName } from './schema';
import { areaOf } from './slots';

/** A part with its place in the message; where an earlier part has no fixed length, as if that one were empty. */
export interface PlacedPart {
	part: MessagePart;
	start: number;
	length: number;
	fixed: Uint8Array | null;
}

export interface Layout {
	id: string;
	title: string;
	/** Bytes of the message; of one whose length varies, what it has at least. */
	length: number;
	varies: boolean;
	parts: PlacedPart[];
	carrier: Carrier | null;
	/** Whether the message says which slot it is for. */
	hasSlot: boolean;
	/** Whether it is a channel message: a value that is told. */
	ofChannel: boolean;
	/** Whether it is for the edit buffer. */
	ofEditBuffer: boolean;
	/** Whether it is of the slot that the panel stands at, or that was called up, whichever that is. */
	ofPanel: boolean;
}

const compiled = new WeakMap<Profile, Map<string, Layout>>();

/** What the lower half of a status byte says. */
export const STATUS_CHANNEL = { variable: 'channel', add: 0, divide: 1, modulo: undefined } as const;
/** Its upper half. */
export const STATUS_OF = { controller: 0xb, program: 0xc } as const;

/** Variables that parts of a message stand for. */
export const variablesIn = (part: MessagePart) =>
	part.part === 'variable'
		? [part]
		: part.part === 'status'
			? [STATUS_CHANNEL]
			: part.part === 'bits'
				? part.fields.flatMap((field) => ('variable' in field ? [field] : []))
				: [];

/** The variables that a message says. */
export const variablesOf = (profile: Profile, id: string) =>
	profile.messages[id].parts.flatMap((part) => variablesIn(part).map(({ variable }) => variable));

/** Whether a message says such a variable. */
export const says = ({ parts }: { parts: readonly MessagePart[] }, name: VariableName): boolean =>
	parts.some((part) => variablesIn(part).some(({ variable }) => variable === name));

/** Whether a message says which slot it is about. */
export const namesSlot = (message: Profile['messages'][string]): boolean =>
	says(message, 'slot') ||
	message.parts.some(
		(part) =>
			part.part === 'memory' || part.part === 'contents' || (part.part === 'stream' && part.of === 'area')
	);

/** Bytes that a part takes; null where the message says so by its length. */
function lengthOf(profile: Profile, part: MessagePart, carrier: Carrier | null): number | null {
	if (isCarrier(part)) {
		const memory = memoryLength(profile, carrier!);
		return memory === null ? null : wireLength(carrier!, memory);
	}
	switch (part.part) {
		case 'bytes':
			return fromHex(part.bytes).length;
		case 'variable':
		case 'count':
			return part.width;
		case 'bits':
		case 'status':
			return 1;
		case 'contents':
			return null;
		case 'checksum':
			return checksumFor(part.checksum).width;
	}
}

function compile(profile: Profile, id: string): Layout {
	const message = profile.messages[id];
	const carrier = carrierIn(profile, message.parts);
	let at = 0;
	let varies = false;
	const parts = message.parts.map((part): PlacedPart => {
		const length = lengthOf(profile, part, carrier);
		varies ||= length === null;
		const placed = {
			part,
			start: at,
			length: length ?? 0,
			fixed: part.part === 'bytes' ? fromHex(part.bytes) : null
		};
		at += placed.length;
		return placed;
	});
	const hasSlot = namesSlot(message);
	const area = carrier && carrier.area !== null ? areaOf(profile, carrier.area) : null;
	const ofEditBuffer = area?.editBuffer?.send === id;
	return {
		id,
		title: message.title,
		length: at,
		varies,
		parts,
		carrier,
		hasSlot,
		ofChannel: parts[0]?.part.part === 'status',
		ofEditBuffer,
		ofPanel: (area?.panel ?? area?.called) !== undefined && !hasSlot && !ofEditBuffer
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

/** What the messages of a profile begin with, each once; null where one may begin with anything. */
const begins = new WeakMap<Profile, Uint8Array[] | null>();

function beginningsOf(profile: Profile): Uint8Array[] | null {
	let own = begins.get(profile);
	if (own === undefined) {
		const heads = layoutsOf(profile).map(({ parts }) => parts[0].fixed);
		const each = new Map(heads.map((head) => [String(head), head]));
		own = heads.includes(null) ? null : [...each.values()].map((head) => head!);
		begins.set(profile, own);
	}
	return own;
}

/** Whether bytes begin as a message of the profile: the others are none of its, whatever follows. */
export function beginsAs(profile: Profile, bytes: Uint8Array): boolean {
	const heads = beginningsOf(profile);
	return heads === null || heads.some((head) => head.every((byte, i) => bytes[i] === byte));
}

/** Bytes of a message that carries so many of memory, in so many records that it lists. */
export function messageLength(layout: Layout, memoryBytes: number, records = 0): number {
	if (!layout.varies) return layout.length;
	const contents = layout.parts.find(({ part }) => part.part === 'contents')?.part;
	return (
		layout.length +
		(layout.carrier ? wireLength(layout.carrier, memoryBytes) : 0) +
		(contents?.part === 'contents' ? contents.width * records : 0)
	);
}

/** Where each part of a message stands and how long it is, and how many records it lists. */
export interface Spread {
	starts: number[];
	lengths: number[];
	records: number;
}

/** Where things of these lengths begin, one after another. */
export function startsOf(lengths: readonly number[]): number[] {
	let at = 0;
	return lengths.map((length) => (at += length) - length);
}

/** The parts of a message of so many bytes; null where it cannot have so many. */
export function spreadOver(layout: Layout, total: number): Spread | null {
	const { parts, carrier } = layout;
	const lengths = parts.map(({ length }) => length);
	let records = 0;
	if (layout.varies) {
		const free = total - layout.length;
		const body = parts.findIndex(({ part }) => isCarrier(part));
		const list = parts.findIndex(({ part }) => part.part === 'contents');
		if (free < 0) return null;
		if (list < 0) lengths[body] = free;
		else {
			const { width } = parts[list].part as Extract<MessagePart, { part: 'contents' }>;
			const each = (count: number) => wireLength(carrier!, count * carrier!.recordSize);
			while (records * width + each(records) < free) records++;
			if (records * width + each(records) !== free) return null;
			lengths[list] = records * width;
			lengths[body] = each(records);
		}
	}
	return { starts: startsOf(lengths), lengths, records };
}

const columns = new WeakMap<Profile, Map<string, Set<string>>>();
const NONE: ReadonlySet<string> = new Set();

/** The sections of an area that travel in messages of many slots. */
export function columnsOf(profile: Profile, area: string): ReadonlySet<string> {
	let known = columns.get(profile);
	if (!known) {
		columns.set(profile, (known = new Map()));
		for (const { parts } of Object.values(profile.messages))
			for (const part of parts)
				if (part.part === 'column')
					known.set(part.area, (known.get(part.area) ?? new Set()).add(part.section));
	}
	return known.get(area) ?? NONE;
}

/** Where a message carries the device ID, or -1. */
export function deviceIdOffset(profile: Profile, id: string): number {
	return (
		layoutOf(profile, id).parts.find(({ part }) => part.part === 'variable' && part.variable === 'deviceId')
			?.start ?? -1
	);
}
