import { Problem } from '../problem';
import { PACKINGS } from './packing';

/** A file as the file dump of MIDI 1.0 (universal messages, sub-ID 07) carries it. */
export interface DumpedFile {
	/** Four signs: `MIDI` (a standard MIDI file), `TEXT`, `BIN `, or another one that both sides know. */
	type: string;
	/** Any length, seven bits a sign. */
	name: string;
	bytes: Uint8Array;
}

const FILE_DUMP = 0x07;
const HEADER = 0x01;
const PACKET = 0x02;
const REQUEST = 0x03;
const END = 0x7b;
/** Bytes of the file in one packet: 128 on the wire. */
const PACKET_BYTES = 112;
/** Seven bytes in eight, the top bits before them, that of the first byte highest. */
const packed = PACKINGS['7in8-first-high'];

const signs = (text: string): number[] => [...text].map((sign) => sign.charCodeAt(0) & 0x7f);
const fourSigns = (type: string): number[] => signs(type.padEnd(4).slice(0, 4));
/** A name may be as long as a message. */
const textOf = (bytes: Uint8Array): string => Array.from(bytes, (sign) => String.fromCharCode(sign)).join('');

/** `F0 7E to 07 03 from type(4) name F7`: asks for a file; without a name, for the one that is loaded. */
export const fileRequest = (to: number, from: number, type: string, name: string): Uint8Array =>
	Uint8Array.of(0xf0, 0x7e, to, FILE_DUMP, REQUEST, from, ...fourSigns(type), ...signs(name), 0xf7);

/** `F0 7E to 07 01 from type(4) length(4) name F7`. A length of nought is one that is not known before. */
export const fileHeader = (to: number, from: number, { type, name, bytes }: DumpedFile): Uint8Array =>
	Uint8Array.of(
		0xf0,
		0x7e,
		to,
		FILE_DUMP,
		HEADER,
		from,
		...fourSigns(type),
		...[0, 7, 14, 21].map((shift) => (bytes.length >> shift) & 0x7f),
		...signs(name),
		0xf7
	);

/** What a header says; `length` is 0 where it is not known. */
export interface FileHeader {
	to: number;
	from: number;
	type: string;
	name: string;
	length: number;
}

const isFileDump = (bytes: Uint8Array, what: number, least: number): boolean =>
	bytes.length >= least &&
	bytes[0] === 0xf0 &&
	bytes[1] === 0x7e &&
	bytes[3] === FILE_DUMP &&
	bytes[4] === what &&
	bytes[bytes.length - 1] === 0xf7;

export function readFileHeader(bytes: Uint8Array): FileHeader | null {
	if (!isFileDump(bytes, HEADER, 15)) return null;
	return {
		to: bytes[2],
		from: bytes[5],
		type: textOf(bytes.subarray(6, 10)),
		length: bytes[10] | (bytes[11] << 7) | (bytes[12] << 14) | (bytes[13] << 21),
		name: textOf(bytes.subarray(14, -1))
	};
}

export function readFileRequest(bytes: Uint8Array): Omit<FileHeader, 'length'> | null {
	if (!isFileDump(bytes, REQUEST, 11)) return null;
	return {
		to: bytes[2],
		from: bytes[5],
		type: textOf(bytes.subarray(6, 10)),
		name: textOf(bytes.subarray(10, -1))
	};
}

/** XOR of everything between F0 and the checksum. */
const sumOf = (bytes: Uint8Array): number => bytes.reduce((sum, byte) => sum ^ byte, 0) & 0x7f;

/** All packets of a file: `F0 7E to 07 02 number count−1 data checksum F7`. */
export function filePackets(to: number, { bytes }: DumpedFile): Uint8Array[] {
	const packets: Uint8Array[] = [];
	for (let at = 0; at < bytes.length; at += PACKET_BYTES) {
		const data = packed.pack(bytes.subarray(at, at + PACKET_BYTES));
		const inner = Uint8Array.of(0x7e, to, FILE_DUMP, PACKET, packets.length & 0x7f, data.length - 1, ...data);
		packets.push(Uint8Array.of(0xf0, ...inner, sumOf(inner), 0xf7));
	}
	return packets;
}

/** How many packets a file of that header has; null where its length is not known before. */
export const filePacketCount = ({ length }: FileHeader): number | null =>
	length === 0 ? null : Math.ceil(length / PACKET_BYTES);

/** The packet that a message is, or that it is damaged; null where it is something else. */
export function readFilePacket(
	bytes: Uint8Array
): { number: number; data: Uint8Array; good: boolean } | null {
	if (!isFileDump(bytes, PACKET, 9)) return null;
	const wire = bytes.subarray(7, -2);
	const right = wire.length === bytes[6] + 1 && bytes.at(-2) === sumOf(bytes.subarray(1, -2));
	try {
		return { number: bytes[5], data: packed.unpack(wire), good: right };
	} catch (error) {
		if (!(error instanceof Problem)) throw error;
		return { number: bytes[5], data: new Uint8Array(), good: false };
	}
}

/** `F0 7E to 7B number F7`: that was all. */
export const endOfFile = (to: number, packet: number): Uint8Array =>
	Uint8Array.of(0xf0, 0x7e, to, END, packet & 0x7f, 0xf7);

export const isEndOfFile = (bytes: Uint8Array): boolean =>
	bytes.length === 6 && bytes[1] === 0x7e && bytes[3] === END;
