import { Problem } from '../problem';
import { joinBytes } from '../midi';
import { CHECKSUMS, checksumBy, type Checksum } from '../sysex';
import { stretchesAt } from './addresses';
import { packingOf } from './packings';
import type { CarrierPart, MessagePart, PartOf, Profile, VariableName } from './schema';
import { sectionNamed } from './sections';
import { areaOf } from './slots';

/** What the variables of a message stand for; slot and part count from 0, channel from 1, deviceId as on the wire. */
export type Variables = Partial<Record<VariableName, number>>;

/** Bytes of a record that came in a message, or are to go out in one. */
export interface Piece {
	area: string;
	/** From 0. */
	slot: number;
	/** First byte in the record. */
	at: number;
	bytes: Uint8Array;
}

/** The part of a message that carries memory. */
export interface Carrier {
	part: CarrierPart;
	/** The area that it is of; null where its address says so. */
	area: string | null;
	/** Bytes of a record of that area; 0 where its address says which it is. */
	recordSize: number;
}

export const isCarrier = (part: MessagePart): part is CarrierPart =>
	part.part === 'body' ||
	part.part === 'section' ||
	part.part === 'column' ||
	part.part === 'memory' ||
	part.part === 'stream' ||
	part.part === 'listed';

export function carrierIn(profile: Profile, parts: readonly MessagePart[]): Carrier | null {
	const part = parts.find(isCarrier);
	if (!part) return null;
	if (part.part === 'memory') return { part, area: null, recordSize: 0 };
	const { record } = areaOf(profile, part.area);
	return { part, area: part.area, recordSize: profile.records[record].size };
}

export const checksumFor = (checksum: PartOf<'checksum'>['checksum']): Checksum =>
	typeof checksum === 'string' ? CHECKSUMS[checksum] : checksumBy(checksum);

const eachSumOf = (part: CarrierPart): Checksum | null =>
	(part.part === 'body' || part.part === 'listed') && part.eachSum !== undefined
		? checksumFor(part.eachSum)
		: null;

/** Bytes on the wire for so many of memory. */
export function wireLength({ part, recordSize }: Carrier, memoryBytes: number): number {
	const packing = packingOf(part.packing);
	const sum = eachSumOf(part);
	return sum
		? (memoryBytes / recordSize) * (packing.packedLength(recordSize) + sum.width)
		: packing.packedLength(memoryBytes);
}

/** Bytes of memory where they are known before the message is read; null where the message says so by its length. */
export function memoryLength(profile: Profile, { part, recordSize }: Carrier): number | null {
	if (part.part === 'body') return part.records * recordSize;
	if (part.part !== 'section' && part.part !== 'column') return null;
	const { record } = areaOf(profile, part.area);
	const size = sectionNamed(profile.records[record], part.section)?.size ?? 0;
	return part.part === 'column' ? part.records * size : size;
}

/** How the memory of a message travels. @throws Problem where a value cannot */
export function packMemory({ part, recordSize }: Carrier, memory: Uint8Array): Uint8Array {
	const packing = packingOf(part.packing);
	const sum = eachSumOf(part);
	if (!sum) return packing.pack(memory);
	const records: Uint8Array[] = [];
	for (let at = 0; at < memory.length; at += recordSize) {
		const packed = packing.pack(memory.subarray(at, at + recordSize));
		records.push(packed, Uint8Array.from(sum.of(packed)));
	}
	return joinBytes(records);
}

/** A checksum behind a record that is wrong. */
export interface WrongSum {
	at: number;
	found: number;
	right: number;
}

/** The memory that travelled so, or the first checksum behind a record that is wrong. @throws Problem `packing.invalid` with `detail.offset` */
export function unpackMemory({ part, recordSize }: Carrier, wire: Uint8Array): Uint8Array | WrongSum {
	const packing = packingOf(part.packing);
	const sum = eachSumOf(part);
	if (!sum) return packing.unpack(wire);
	const length = packing.packedLength(recordSize);
	const records: Uint8Array[] = [];
	for (let at = 0; at < wire.length; at += length + sum.width) {
		const packed = wire.subarray(at, at + length);
		const right = sum.of(packed);
		const wrong = right.findIndex((byte, i) => wire[at + length + i] !== byte);
		if (wrong >= 0) return { at: at + length + wrong, found: wire[at + length + wrong], right: right[wrong] };
		try {
			records.push(packing.unpack(packed));
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			throw new Problem(error.code, error.message, error.remedy, {
				...error.detail,
				offset: at + Number(error.detail.offset ?? 0)
			});
		}
	}
	return joinBytes(records);
}

/** Bytes that packet so and so of a stream holds; 0 past its end. */
export function packetSize(profile: Profile, part: PartOf<'stream'>, packet: number): number {
	const { record, slots } = areaOf(profile, part.area);
	const total = profile.records[record].size * (part.of === 'slot' ? 1 : slots);
	return Math.max(0, Math.min(part.bytes, total - packet * part.bytes));
}

/**
 * Where the memory of a message belongs; a sentence where it cannot be what it says.
 * @param contents the slots that the message lists
 */
export function placesOf(
	profile: Profile,
	carrier: Carrier,
	variables: Variables,
	contents: readonly number[],
	memory: Uint8Array
): Piece[] | string {
	const { part, recordSize } = carrier;
	if (part.part === 'memory') {
		const stretches = stretchesAt(profile, variables.address ?? 0, memory.length);
		if (!stretches) return 'it is of an address that the profile does not describe';
		let at = 0;
		return stretches.map(({ area, slot, at: start, size }): Piece => {
			const bytes = memory.subarray(at, (at += size));
			return { area, slot, at: start, bytes };
		});
	}
	const area = areaOf(profile, part.area);
	const missing = (slot: number) => `it names slot ${slot + 1}, which does not exist`;
	const recordsFrom = (slots: readonly number[]): Piece[] | string => {
		const beyond = slots.find((slot) => slot >= area.slots);
		return beyond !== undefined
			? missing(slots[0])
			: slots.map((slot, i) => ({
					area: area.id,
					slot,
					at: 0,
					bytes: memory.subarray(i * recordSize, (i + 1) * recordSize)
				}));
	};
	const slot = variables.slot ?? 0;
	switch (part.part) {
		case 'body':
			return recordsFrom(Array.from({ length: part.records }, (_, i) => slot + i));
		case 'listed':
			return recordsFrom(contents);
		case 'section': {
			const section = sectionNamed(profile.records[area.record], part.section, variables.part ?? 0);
			if (!section) return `it names part ${(variables.part ?? 0) + 1}, which does not exist`;
			return slot < area.slots ? [{ area: area.id, slot, at: section.at, bytes: memory }] : missing(slot);
		}
		case 'column': {
			const section = sectionNamed(profile.records[area.record], part.section)!;
			if (slot + part.records > area.slots) return missing(slot + part.records - 1);
			return Array.from({ length: part.records }, (_, i) => ({
				area: area.id,
				slot: slot + i,
				at: section.at,
				bytes: memory.subarray(i * section.size, (i + 1) * section.size)
			}));
		}
		case 'stream': {
			const packet = variables.packet ?? 0;
			const size = packetSize(profile, part, packet);
			if (size === 0) return `it is packet ${packet + 1}, past the end`;
			if (size !== memory.length) return `packet ${packet + 1} holds ${memory.length} bytes, not ${size}`;
			const from = packet * part.bytes;
			if (part.of === 'slot')
				return slot < area.slots ? [{ area: area.id, slot, at: from, bytes: memory }] : missing(slot);
			return cutBySlots(area.id, recordSize, from, memory);
		}
	}
}

/** Memory of an area from a byte on, cut where records end. */
function cutBySlots(area: string, recordSize: number, from: number, memory: Uint8Array): Piece[] {
	const pieces: Piece[] = [];
	for (let at = 0; at < memory.length;) {
		const start = (from + at) % recordSize;
		const size = Math.min(recordSize - start, memory.length - at);
		pieces.push({
			area,
			slot: Math.floor((from + at) / recordSize),
			at: start,
			bytes: memory.subarray(at, at + size)
		});
		at += size;
	}
	return pieces;
}
