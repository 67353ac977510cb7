import { joinBytes } from '../midi';
import type { Identity } from '../sysex';

/**
 * Messages of MIDI-CI (M2-101, version 1.2): universal system exclusive, sub-ID 0D. Numbers of several bytes travel in seven
 * bits each, the lowest first. Written from memory where the text was not at hand: see `docs/guides/self-describing.md`.
 */

/** What each side calls itself for as long as they talk: 28 bits, picked at random. */
export type Muid = number;

/** Everybody. */
export const BROADCAST: Muid = 0x0fffffff;
/** From here on numbers are kept for other uses. */
const RESERVED_MUIDS = 0x0fffff00;
/** The version that is spoken here: 1.2. */
export const CI_VERSION = 2;
const WHOLE_FUNCTION_BLOCK = 0x7f;

/** @param random a number in [0, 1) */
export const pickMuid = (random: () => number): Muid => Math.floor(random() * RESERVED_MUIDS);

/** What a message is, by its second sub-ID. */
export const CI = {
	discovery: 0x70,
	discoveryReply: 0x71,
	ack: 0x7d,
	invalidate: 0x7e,
	nak: 0x7f,
	propertyAbilities: 0x30,
	propertyAbilitiesReply: 0x31,
	get: 0x34,
	getReply: 0x35,
	set: 0x36,
	setReply: 0x37,
	subscription: 0x38,
	subscriptionReply: 0x39,
	notify: 0x3f
} as const;

/** Part of what discovery tells: who it is, and what it can. */
export interface Discovery extends Omit<Identity, 'deviceId'> {
	/** The categories that it speaks; bit 3 is property exchange. */
	categories: number;
	/** The longest message that it takes, in bytes. */
	mostBytes: number;
}

export const speaksProperties = ({ categories }: Discovery): boolean => (categories & 0x08) !== 0;

/** A message of property exchange: one chunk of it. */
export interface Chunk {
	request: number;
	/** The header, in the first chunk alone. */
	header: Uint8Array;
	/** How many chunks there are; 0 where the sender does not know yet. */
	chunks: number;
	/** Which of them this is, from 1. */
	chunk: number;
	data: Uint8Array;
}

/** A message as it was read. */
export interface CiMessage {
	kind: number;
	version: number;
	from: Muid;
	to: Muid;
	/** What follows the head. */
	body: Uint8Array;
}

/** A number in so many bytes of seven bits, the lowest first. */
export const sevens = (value: number, width: number): number[] =>
	Array.from({ length: width }, (_, i) => Math.floor(value / 128 ** i) % 128);

const numberOf = (bytes: Uint8Array, at: number, width: number): number =>
	Array.from({ length: width }, (_, i) => bytes[at + i] * 128 ** i).reduce((sum, each) => sum + each, 0);

export const ciMessage = (
	kind: number,
	from: Muid,
	to: Muid,
	body: Uint8Array | readonly number[] = []
): Uint8Array =>
	Uint8Array.of(
		0xf0,
		0x7e,
		WHOLE_FUNCTION_BLOCK,
		0x0d,
		kind,
		CI_VERSION,
		...sevens(from, 4),
		...sevens(to, 4),
		...body,
		0xf7
	);

/** Bytes in front of the body. */
const HEAD = 14;

/** Reads any message of MIDI-CI; null where it is something else, is too short, or holds a byte that cannot be. */
export function readCiMessage(bytes: Uint8Array): CiMessage | null {
	if (bytes.length < HEAD + 1 || bytes[0] !== 0xf0 || bytes[1] !== 0x7e || bytes[3] !== 0x0d) return null;
	if (bytes.at(-1) !== 0xf7 || bytes.subarray(1, -1).some((byte) => byte > 0x7f)) return null;
	return {
		kind: bytes[4],
		version: bytes[5],
		from: numberOf(bytes, 6, 4),
		to: numberOf(bytes, 10, 4),
		body: bytes.slice(HEAD, -1)
	};
}

/** The question that discovery is, as its sender describes itself. */
export const discoveryBody = (own: Discovery): number[] => [
	...(own.manufacturer.length === 1 ? [own.manufacturer[0], 0, 0] : own.manufacturer),
	...own.family,
	...own.member,
	...own.version,
	own.categories,
	...sevens(own.mostBytes, 4),
	// The output path, which the answer repeats.
	0
];

/** Says to everybody that a number is nobody's any more. */
export const invalidation = (from: Muid, whose: Muid): Uint8Array =>
	ciMessage(CI.invalidate, from, BROADCAST, sevens(whose, 4));

/** Says that nobody speaks with this number any more. */
export const goodbye = (me: Muid): Uint8Array => invalidation(me, me);

/** What the app says of itself: the number for what is not sold, and that it speaks property exchange. */
export const OWN: Discovery = {
	manufacturer: Uint8Array.of(0x7d),
	family: Uint8Array.of(0, 0),
	member: Uint8Array.of(0, 0),
	version: Uint8Array.of(0, 0, 0, 1),
	categories: 0x08,
	mostBytes: 65_536
};

/** What a discovery, or the answer to one, says; null where it is too short. */
export function readDiscovery({ body }: CiMessage): Discovery | null {
	if (body.length < 16) return null;
	return {
		// An ID of one byte travels with two that are nothing.
		manufacturer: body[0] === 0 ? body.slice(0, 3) : body.slice(0, 1),
		family: body.slice(3, 5),
		member: body.slice(5, 7),
		version: body.slice(7, 11),
		categories: body[11],
		mostBytes: numberOf(body, 12, 4)
	};
}

/** Whose number is no longer theirs; null where the message is too short. */
export const readInvalidated = ({ body }: CiMessage): Muid | null =>
	body.length < 4 ? null : numberOf(body, 0, 4);

/** How many questions it takes at a time; null where the message is too short. */
export const readAbilities = ({ body }: CiMessage): number | null => (body.length < 1 ? null : body[0]);

/** What was not understood or not done, and why. */
export interface Refusal {
	/** The message that it is about, by its second sub-ID; null where the sender speaks an earlier version. */
	about: number | null;
	/** 0 where it says nothing more. */
	status: number;
	text: string;
}

/** A negative answer, as versions 1.1 and 1.2 say it. */
export function readRefusal({ body }: CiMessage): Refusal {
	if (body.length < 10) return { about: null, status: 0, text: '' };
	const length = numberOf(body, 8, 2);
	return {
		about: body[0],
		status: body[1],
		text: String.fromCharCode(...body.subarray(10, 10 + length))
	};
}

export const chunkBody = ({ request, header, chunks, chunk, data }: Chunk): Uint8Array =>
	joinBytes([
		Uint8Array.of(request, ...sevens(header.length, 2)),
		header,
		Uint8Array.of(...sevens(chunks, 2), ...sevens(chunk, 2), ...sevens(data.length, 2)),
		data
	]);

/** One chunk of a message of property exchange; null where its lengths are not those of the message. */
export function readChunk({ body }: CiMessage): Chunk | null {
	if (body.length < 9) return null;
	const after = 3 + numberOf(body, 1, 2);
	if (body.length < after + 6) return null;
	const data = body.slice(after + 6);
	return data.length === numberOf(body, after + 4, 2)
		? {
				request: body[0],
				header: body.slice(3, after),
				chunks: numberOf(body, after, 2),
				chunk: numberOf(body, after + 2, 2),
				data
			}
		: null;
}
