import { Problem } from '../problem';

/** A sample as the sample dump standard carries it. Words are unsigned, `bits` wide; the middle is silence. */
export interface Sample {
	number: number;
	/** 8–28 */
	bits: number;
	/** Period of one word, in nanoseconds. */
	periodNs: number;
	words: Uint32Array;
	/** First and last word of the sustain loop. */
	loop: { start: number; end: number; kind: 'forward' | 'both ways' | 'off' };
}

export type SampleHeader = Omit<Sample, 'words'> & { length: number };

export const HANDSHAKE = { wait: 0x7c, cancel: 0x7d, nak: 0x7e, ack: 0x7f } as const;
export type Handshake = keyof typeof HANDSHAKE;

const PACKET_DATA = 120;
const three = (value: number) => [value & 0x7f, (value >> 7) & 0x7f, (value >> 14) & 0x7f];
const readThree = (bytes: Uint8Array, at: number) => bytes[at] | (bytes[at + 1] << 7) | (bytes[at + 2] << 14);
const bytesPerWord = (bits: number) => Math.ceil(bits / 7);
const wordsPerPacket = (bits: number) => Math.floor(PACKET_DATA / bytesPerWord(bits));

/** `F0 7E dev 7F|7E|7D|7C packet F7`. */
export const handshake = (deviceId: number, kind: Handshake, packet: number): Uint8Array =>
	Uint8Array.of(0xf0, 0x7e, deviceId, HANDSHAKE[kind], packet & 0x7f, 0xf7);

/** The handshake that a message is, or null. */
export function readHandshake(bytes: Uint8Array): { kind: Handshake; packet: number } | null {
	if (bytes.length !== 6 || bytes[1] !== 0x7e) return null;
	const found = Object.entries(HANDSHAKE).find(([, code]) => code === bytes[3]);
	return found ? { kind: found[0] as Handshake, packet: bytes[4] } : null;
}

/** `F0 7E dev 03 number(2) F7`. */
export const sampleRequest = (deviceId: number, number: number): Uint8Array =>
	Uint8Array.of(0xf0, 0x7e, deviceId, 0x03, number & 0x7f, number >> 7, 0xf7);

export const readSampleRequest = (bytes: Uint8Array): number | null =>
	bytes.length === 7 && bytes[1] === 0x7e && bytes[3] === 0x03 ? bytes[4] | (bytes[5] << 7) : null;

const LOOPS = { forward: 0x00, 'both ways': 0x01, off: 0x7f } as const;

/** `F0 7E dev 01 number(2) bits period(3) length(3) loop start(3) loop end(3) loop kind F7`. */
export const sampleHeader = (deviceId: number, sample: SampleHeader): Uint8Array =>
	Uint8Array.of(
		...[0xf0, 0x7e, deviceId, 0x01, sample.number & 0x7f, sample.number >> 7, sample.bits],
		...three(sample.periodNs),
		...three(sample.length),
		...three(sample.loop.start),
		...three(sample.loop.end),
		LOOPS[sample.loop.kind],
		0xf7
	);

export function readSampleHeader(bytes: Uint8Array): SampleHeader | null {
	if (bytes.length !== 21 || bytes[1] !== 0x7e || bytes[3] !== 0x01) return null;
	const kind = Object.entries(LOOPS).find(([, code]) => code === bytes[19]);
	return {
		number: bytes[4] | (bytes[5] << 7),
		bits: bytes[6],
		periodNs: readThree(bytes, 7),
		length: readThree(bytes, 10),
		loop: {
			start: readThree(bytes, 13),
			end: readThree(bytes, 16),
			kind: (kind?.[0] ?? 'off') as keyof typeof LOOPS
		}
	};
}

const packetChecksum = (bytes: Uint8Array) =>
	bytes.subarray(1, bytes.length - 2).reduce((sum, byte) => sum ^ byte, 0) & 0x7f;

/** All data packets of a sample: `F0 7E dev 02 number data[120] checksum F7`; words are left-justified in 7-bit bytes. */
export function samplePackets(deviceId: number, { bits, words }: Sample): Uint8Array[] {
	const width = bytesPerWord(bits);
	const per = wordsPerPacket(bits);
	const shift = width * 7 - bits;
	const packets: Uint8Array[] = [];
	for (let from = 0; from < words.length; from += per) {
		const packet = new Uint8Array(127);
		packet.set([0xf0, 0x7e, deviceId, 0x02, packets.length & 0x7f]);
		for (let i = 0; i < per && from + i < words.length; i++) {
			const value = words[from + i] * 2 ** shift;
			for (let b = 0; b < width; b++)
				packet[5 + i * width + b] = Math.floor(value / 2 ** (7 * (width - 1 - b))) & 0x7f;
		}
		packet[126] = 0xf7;
		packet[125] = packetChecksum(packet);
		packets.push(packet);
	}
	return packets;
}

/** How many packets a sample of that header has. */
export const packetCount = ({ bits, length }: SampleHeader): number =>
	Math.ceil(length / wordsPerPacket(bits));

/** The packet that a message is: its number and data, or that it is damaged; null where it is something else. */
export function readSamplePacket(
	bytes: Uint8Array
): { number: number; data: Uint8Array; good: boolean } | null {
	if (bytes[1] !== 0x7e || bytes[3] !== 0x02) return null;
	return {
		number: bytes[4],
		data: bytes.slice(5, 125),
		good: bytes.length === 127 && bytes[125] === packetChecksum(bytes)
	};
}

/** A sample from its header and the data of its packets. @throws Problem `sample.short` */
export function joinSample(header: SampleHeader, packets: readonly Uint8Array[]): Sample {
	const { bits, length } = header;
	const width = bytesPerWord(bits);
	const per = wordsPerPacket(bits);
	if (packets.length < packetCount(header))
		throw new Problem('sample.short', 'Packets of the sample are missing.', 'Ask for it again.');
	const shift = width * 7 - bits;
	const words = new Uint32Array(length);
	for (let i = 0; i < length; i++) {
		const data = packets[Math.floor(i / per)];
		let value = 0;
		for (let b = 0; b < width; b++) value = value * 128 + data[(i % per) * width + b];
		words[i] = Math.floor(value / 2 ** shift);
	}
	return { number: header.number, bits, periodNs: header.periodNs, loop: header.loop, words };
}
