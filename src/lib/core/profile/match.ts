import { Problem } from '../problem';
import { countedIn, rangeOf, wireValue } from './build';
import { checksumFor, isCarrier, placesOf, unpackMemory, type Piece, type Variables } from './carrier';
import {
	STATUS_CHANNEL,
	STATUS_OF,
	layoutOf,
	layoutsOf,
	spreadOver,
	variablesIn,
	type Layout,
	type Spread
} from './layout';
import type { PartOf, Profile } from './schema';
import { numberAt } from './wire-number';

export interface Match {
	messageId: string;
	title: string;
	variables: Variables;
	/** The memory that it carries. */
	memory: Uint8Array;
	/** The slots that it lists, in its order. */
	contents: number[];
	/** Where its memory belongs; nowhere where it is for the edit buffer, or for a slot that the message does not name. */
	pieces: Piece[];
}

/** Why bytes are not that message; `at` is the first byte that disagrees. */
export interface Mismatch {
	why: 'other message' | 'length' | 'checksum' | 'content';
	at: number;
	says: string;
}

const NO_BYTES = new Uint8Array();

export const isMatch = (result: Match | Mismatch): result is Match => 'messageId' in result;

/** The slots of which a message holds something, each once, in its order. */
export function slotsIn({ pieces }: Match): { area: string; slot: number }[] {
	const slots: { area: string; slot: number }[] = [];
	for (const { area, slot } of pieces) {
		const last = slots.at(-1);
		if (last?.area !== area || last.slot !== slot) slots.push({ area, slot });
	}
	return slots;
}

/** Values of variables as they are read, byte by byte. */
class Reading {
	readonly variables: Variables = {};
	readonly #read: { spec: ReturnType<typeof variablesIn>[number]; wire: number; at: number }[] = [];

	/** Takes one in; false where it is below its first value. */
	take(spec: ReturnType<typeof variablesIn>[number], wire: number, at: number): boolean {
		const { variable, add, divide, modulo } = spec;
		const own = (wire - add) * divide;
		if (own < 0) return false;
		const shared = this.#read.some(
			(other) => other.spec.variable === variable && (other.spec.modulo ?? modulo)
		);
		const value = own + (variable === 'channel' ? 1 : 0);
		this.variables[variable] = shared ? this.variables[variable]! + own : value;
		this.#read.push({ spec, wire, at });
		return true;
	}

	/** The first byte that would not stand there if the message were built of what was read; -1 where all would. */
	contradiction(): number {
		const wrong = this.#read.find(
			({ spec, wire }) => wireValue(spec, this.variables[spec.variable]!) !== wire
		);
		return wrong ? wrong.at : -1;
	}
}

/** The values in a byte that several things share; false where a fixed one differs. */
function readBits({ fields }: PartOf<'bits'>, byte: number, at: number, reading: Reading): boolean {
	let rest = fields.reduce((sum, { bits }) => sum + bits, 0);
	if (byte >> rest !== 0) return false;
	for (const field of fields) {
		rest -= field.bits;
		const value = (byte >> rest) & (2 ** field.bits - 1);
		if ('variable' in field ? !reading.take(field, value, at) : value !== field.value) return false;
	}
	return true;
}

const lengthFault = (
	layout: Layout,
	bytes: Uint8Array,
	at = Math.min(bytes.length, layout.length)
): Mismatch => ({
	why: 'length',
	at,
	says: layout.varies
		? `${bytes.length} bytes are not the length of a “${layout.title}”`
		: `${bytes.length} bytes, “${layout.title}” has ${layout.length}`
});

const other = (at: number, says: string): Mismatch => ({ why: 'other message', at, says });

/** The first fixed byte in front of what varies that is another one. */
function frontFault({ title, parts }: Layout, bytes: Uint8Array): Mismatch | null {
	for (const { part, start, length, fixed } of parts) {
		if (part.part === 'contents' || (isCarrier(part) && length === 0)) return null;
		for (let i = 0; fixed && i < length && start + i < bytes.length - 1; i++)
			if (bytes[start + i] !== fixed[i])
				return other(start + i, `byte ${start + i} is not that of a “${title}”`);
	}
	return null;
}

/** Fixed bytes and variables, as far as the message goes. */
function readFrame(
	layout: Layout,
	{ starts, lengths }: Spread,
	bytes: Uint8Array,
	reading: Reading
): Mismatch | null {
	const last = layout.parts.length - 1;
	for (let p = 0; p <= last; p++) {
		const { part, fixed } = layout.parts[p];
		const [start, length] = [starts[p], lengths[p]];
		if (start + length > bytes.length) return lengthFault(layout, bytes, bytes.length);
		if (fixed) {
			for (let i = 0; i < length; i++)
				if (bytes[start + i] !== fixed[i])
					return p === last
						? lengthFault(layout, bytes, start + i)
						: other(start + i, `byte ${start + i} is not that of a “${layout.title}”`);
		} else if (part.part === 'variable') {
			const wire = numberAt(bytes, start, part);
			if (wire < 0 || !reading.take(part, wire, start))
				return other(start, `its ${part.variable} is below the first`);
		} else if (part.part === 'status') {
			if (bytes[start] >> 4 !== STATUS_OF[part.of])
				return other(start, `it does not begin as a “${layout.title}”`);
			reading.take(STATUS_CHANNEL, bytes[start] & 15, start);
		} else if (part.part === 'bits' && !readBits(part, bytes[start], start, reading))
			return other(start, `byte ${start} is not that of a “${layout.title}”`);
	}
	const wrong = reading.contradiction();
	return wrong < 0 ? null : other(wrong, `byte ${wrong} says something else than another byte does`);
}

/** The variables of bytes that are not quite the message, as far as they can be read. */
export function readVariables(layout: Layout, spread: Spread, bytes: Uint8Array): Variables {
	const reading = new Reading();
	readFrame(layout, spread, bytes, reading);
	return reading.variables;
}

/** The slots that a message lists. */
function readContents(layout: Layout, spread: Spread, bytes: Uint8Array): number[] | null {
	const at = layout.parts.findIndex(({ part }) => part.part === 'contents');
	if (at < 0) return [];
	const part = layout.parts[at].part as PartOf<'contents'>;
	const contents = Array.from(
		{ length: spread.records },
		(_, i) => numberAt(bytes, spread.starts[at] + i * part.width, part) - part.add
	);
	return contents.some((slot) => slot < 0) ? null : contents;
}

/** Counts and checksums over the bytes as they travel. */
function checkSums(layout: Layout, spread: Spread, bytes: Uint8Array): Mismatch | null {
	for (const [p, { part, length }] of layout.parts.entries()) {
		if (part.part !== 'checksum' || part.over === 'memory') continue;
		const wrong = wrongSum(part, bytes, spread.starts[p], length, () =>
			bytes.subarray(...rangeOf(layout, spread.starts, spread.lengths, part))
		);
		if (wrong) return wrong;
	}
	return null;
}

function wrongSum(
	part: PartOf<'checksum'>,
	bytes: Uint8Array,
	start: number,
	length: number,
	covered: () => Uint8Array
): Mismatch | null {
	const right = checksumFor(part.checksum).of(covered());
	for (let i = 0; i < length; i++)
		if (bytes[start + i] !== right[i])
			return {
				why: 'checksum',
				at: start + i,
				says: `checksum ${bytes[start + i]}, the data give ${right[i]}`
			};
	return null;
}

/** The memory that the message carries. */
function readMemory(layout: Layout, spread: Spread, bytes: Uint8Array): Uint8Array | Mismatch {
	const at = layout.parts.findIndex(({ part }) => isCarrier(part));
	if (at < 0) return new Uint8Array();
	const start = spread.starts[at];
	try {
		const memory = unpackMemory(layout.carrier!, bytes.subarray(start, start + spread.lengths[at]));
		return memory instanceof Uint8Array
			? memory
			: {
					why: 'checksum',
					at: start + memory.at,
					says: `checksum ${memory.found} behind a record, the data give ${memory.right}`
				};
	} catch (error) {
		if (error instanceof Problem)
			return { why: 'content', at: start + Number(error.detail.offset ?? 0), says: error.message };
		throw error;
	}
}

/** What the memory shows to be wrong: counts of it, checksums over it. */
function checkMemory(layout: Layout, spread: Spread, bytes: Uint8Array, memory: Uint8Array): Mismatch | null {
	for (const [p, { part, length }] of layout.parts.entries()) {
		const start = spread.starts[p];
		if (part.part === 'count') {
			const [says, holds] = [numberAt(bytes, start, part), countedIn(part, layout, spread, memory.length)];
			if (says !== holds)
				return { why: 'length', at: start, says: `it says that it holds ${says}, and holds ${holds}` };
		}
		if (part.part === 'checksum' && part.over === 'memory') {
			const wrong = wrongSum(part, bytes, start, length, () => memory);
			if (wrong) return wrong;
		}
	}
	return null;
}

/**
 * Reads `bytes` as one message of the profile. A match builds back to the same bytes: what could not be rebuilt
 * exactly (a wrong checksum, stray bits, a slot that does not exist) is a mismatch.
 */
export function matchMessage(profile: Profile, id: string, bytes: Uint8Array): Match | Mismatch {
	const layout = layoutOf(profile, id);
	const head = layout.parts[0].fixed ?? NO_BYTES;
	for (let i = 0; i < head.length; i++)
		if (bytes[i] !== head[i]) return other(i, `it does not begin as a “${layout.title}”`);
	const spread = spreadOver(layout, bytes.length);
	if (!spread) return frontFault(layout, bytes) ?? lengthFault(layout, bytes);
	const reading = new Reading();
	const framed = readFrame(layout, spread, bytes, reading);
	if (framed) return framed;
	for (let i = 1; i < bytes.length - (layout.ofChannel ? 0 : 1); i++)
		if (bytes[i] > 0x7f)
			return { why: 'content', at: i, says: `a status byte stands at byte ${i}, inside the message` };
	if (!layout.varies && bytes.length !== layout.length) return lengthFault(layout, bytes);
	const summed = checkSums(layout, spread, bytes);
	if (summed) return summed;
	const match: Match = {
		messageId: id,
		title: layout.title,
		variables: reading.variables,
		memory: new Uint8Array(),
		contents: [],
		pieces: []
	};
	if (!layout.carrier) return match;
	const contents = readContents(layout, spread, bytes);
	if (!contents) return { why: 'content', at: 0, says: 'it lists a slot below the first' };
	const memory = readMemory(layout, spread, bytes);
	if (!(memory instanceof Uint8Array)) return memory;
	const counted = checkMemory(layout, spread, bytes, memory);
	if (counted) return counted;
	const loose = layout.ofPanel || layout.ofEditBuffer;
	const pieces = placesOf(profile, layout.carrier, match.variables, contents, memory);
	if (typeof pieces === 'string') return { why: 'content', at: 0, says: pieces };
	return { ...match, memory, contents, pieces: loose ? [] : pieces };
}

/** The first of these messages of the profile that `bytes` are; the nearest mismatch where they are none. */
export function matchOneOf(profile: Profile, ids: readonly string[], bytes: Uint8Array): Match | Mismatch {
	let nearest: Mismatch | null = null;
	for (const id of ids) {
		const found = matchMessage(profile, id, bytes);
		if (isMatch(found)) return found;
		if (!nearest || (nearest.why === 'other message' && found.why !== 'other message')) nearest = found;
	}
	return nearest!;
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
