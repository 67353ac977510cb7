import { Problem } from '../problem';
import { bitCarriers } from './bit-carriers';
import { countedIn, rangeOf } from './build';
import {
	checksumFor,
	isCarrier,
	packMemory,
	placesOf,
	unpackMemory,
	wireLength,
	type Carrier,
	type Piece
} from './carrier';
import { readName, readText } from './charset';
import { layoutsOf, spreadOver, variablesIn, type Layout, type Spread } from './layout';
import { fieldBytes, type FieldByte } from './field';
import { isMatch, matchMessage, readVariables, type Match, type Mismatch } from './match';
import { meaningOf, parameterNamed } from './meaning';
import { formatValue } from './parameter';
import type { MessagePart, PartOf, Profile, VariableName } from './schema';
import { sectionsOf } from './sections';
import { areaOf, slotLabel } from './slots';
import { textBits } from './text-codes';
import { readValue } from './value';
import { numberAt } from './wire-number';

/** What claims bytes of a message. `start` and `length` in bytes of the message. */
export interface ByteSpan {
	start: number;
	length: number;
	kind: 'fixed' | 'variable' | 'checksum' | 'name' | 'parameter' | 'record' | 'unclaimed';
	label: string;
	/** What it holds, as people read it. */
	shows: string;
	/** For a checksum: whether it is right; for fixed bytes and counts, whether they are as they must be. */
	right?: boolean;
}

export interface ByteMap {
	messageId: string | null;
	title: string;
	/** Why the message is not read, or null. */
	fault: Mismatch | null;
	spans: ByteSpan[];
	/** Names of the slots in it, as decoded. */
	names: { label: string; name: string | null }[];
	claimed: number;
	total: number;
}

/** How many records are mapped parameter by parameter; more would only repeat. */
const DETAILED = 4;

const VARIABLE_WORDS: Record<VariableName, string> = {
	deviceId: 'Device ID',
	channel: 'Channel',
	slot: 'Slot',
	part: 'Part',
	packet: 'Packet',
	address: 'Address',
	size: 'Size'
};

/** The layout that fits bytes best, and how they fit it. */
function bestLayout(profile: Profile, bytes: Uint8Array) {
	const results = layoutsOf(profile).map((layout) => ({
		layout,
		result: matchMessage(profile, layout.id, bytes)
	}));
	const agrees = ({ layout, result }: (typeof results)[number]) =>
		isMatch(result)
			? Infinity
			: result.at +
				(result.why === 'other message' ? 0 : 1000) -
				Math.abs(layout.length - bytes.length) / 1e6;
	return results.toSorted((a, b) => agrees(b) - agrees(a))[0] ?? null;
}

/** Where the parts stand in bytes of a length that the message cannot have: as if the body had what is there. */
function spreadAnyway(layout: Layout, total: number): Spread {
	const spread = spreadOver(layout, total);
	if (spread) return spread;
	const lengths = layout.parts.map(({ part, length }) =>
		isCarrier(part) && layout.varies ? Math.max(0, total - layout.length) : length
	);
	let at = 0;
	return { starts: lengths.map((length) => (at += length) - length), lengths, records: 0 };
}

/**
 * Which part of a profile's layouts claims each byte of a message, under the layout that fits best; live feedback for
 * somebody who writes the profile. Record bytes are shown by the message bytes that carry them.
 */
export function byteMap(profile: Profile, bytes: Uint8Array): ByteMap {
	const best = bestLayout(profile, bytes);
	if (!best || (!isMatch(best.result) && best.result.at < 2))
		return {
			messageId: null,
			title: 'No message of this profile',
			fault: best && !isMatch(best.result) ? best.result : null,
			spans:
				bytes.length > 0
					? [{ start: 0, length: bytes.length, kind: 'unclaimed', label: 'Unclaimed', shows: '' }]
					: [],
			names: [],
			claimed: 0,
			total: bytes.length
		};
	const { layout, result } = best;
	const spread = spreadAnyway(layout, bytes.length);
	const body = new BodyMap(profile, layout, spread, bytes, isMatch(result) ? result : null);
	const spans = layout.parts.flatMap(({ part, fixed }, i): ByteSpan[] => {
		const start = spread.starts[i];
		const length = Math.min(spread.lengths[i], bytes.length - start);
		if (length <= 0) return [];
		if (isCarrier(part)) return body.spans(start, length);
		const span = { start, length };
		const piece = bytes.subarray(start, start + length);
		const isWhole = length === spread.lengths[i];
		switch (part.part) {
			case 'bytes':
				return [
					{
						...span,
						kind: 'fixed',
						label: part.name ?? 'Fixed bytes',
						shows: '',
						right: piece.every((byte, n) => byte === fixed![n])
					}
				];
			case 'checksum':
				return [
					{
						...span,
						kind: 'checksum',
						label: 'Checksum',
						...sumShows(layout, spread, bytes, part, piece, body.memory)
					}
				];
			case 'count':
				return [
					{
						...span,
						kind: 'variable',
						label: 'Count',
						...countShows(layout, spread, bytes, part, start, body)
					}
				];
			case 'contents':
				return [{ ...span, kind: 'variable', label: 'Contents', shows: `${spread.records} records` }];
			case 'variable':
			case 'bits':
				return [{ ...span, kind: 'variable', ...variableShows(part, bytes, start, isWhole) }];
		}
	});
	const end = spread.starts.at(-1)! + spread.lengths.at(-1)!;
	if (bytes.length > end)
		spans.push({ start: end, length: bytes.length - end, kind: 'unclaimed', label: 'Unclaimed', shows: '' });
	spans.sort((a, b) => a.start - b.start);
	return {
		messageId: layout.id,
		title: layout.title,
		fault: isMatch(result) ? null : result,
		spans,
		names: body.names,
		claimed: spans.reduce((sum, { kind, length }) => sum + (kind === 'unclaimed' ? 0 : length), 0),
		total: bytes.length
	};
}

function variableShows(
	part: PartOf<'variable' | 'bits'>,
	bytes: Uint8Array,
	start: number,
	isWhole: boolean
): { label: string; shows: string } {
	const names = variablesIn(part).map(({ variable }) => VARIABLE_WORDS[variable]);
	if (part.part === 'bits') return { label: names.join(', ') || 'Fixed bits', shows: String(bytes[start]) };
	const wire = isWhole ? numberAt(bytes, start, part) : -1;
	const value = (wire - part.add) * part.divide + (part.variable === 'channel' ? 1 : 0);
	return { label: names[0], shows: wire < 0 ? '' : String(value) };
}

function sumShows(
	layout: Layout,
	spread: Spread,
	bytes: Uint8Array,
	part: PartOf<'checksum'>,
	piece: Uint8Array,
	memory: Uint8Array | null
): { shows: string; right: boolean } {
	if (part.over === 'memory' && !memory) return { shows: 'its data cannot be unpacked', right: false };
	const covered =
		part.over === 'memory'
			? memory!
			: bytes.subarray(...rangeOf(layout, spread.starts, spread.lengths, part));
	const wanted = checksumFor(part.checksum).of(covered);
	const right = wanted.length === piece.length && wanted.every((byte, i) => byte === piece[i]);
	const inHex = wanted.map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
	return { shows: right ? 'right' : `wrong: the data give ${inHex}`, right };
}

function countShows(
	layout: Layout,
	spread: Spread,
	bytes: Uint8Array,
	part: PartOf<'count'>,
	start: number,
	{ memory }: BodyMap
): { shows: string; right: boolean } {
	const says = numberAt(bytes, start, part);
	const size = layout.carrier?.recordSize ?? 0;
	const held = memory?.length ?? 0;
	const counted = countedIn(part, layout, spread, held, size ? held / size : 0);
	const right = says === counted;
	return { shows: right ? String(says) : `wrong: says ${says}, it holds ${counted}`, right };
}

interface Claim {
	labels: Set<string>;
	shows: string;
	kind: ByteSpan['kind'];
}

/** The part of a message that carries memory, byte by byte. */
class BodyMap {
	/** What it carries; null where it cannot be unpacked. */
	readonly memory: Uint8Array | null = null;
	readonly names: ByteMap['names'] = [];
	readonly #profile: Profile;
	readonly #carrier: Carrier | null;
	readonly #match: Match | null;
	readonly #pieces: Piece[] = [];
	#trouble = '';

	constructor(profile: Profile, layout: Layout, spread: Spread, bytes: Uint8Array, match: Match | null) {
		this.#profile = profile;
		this.#carrier = layout.carrier;
		this.#match = match;
		const at = layout.parts.findIndex(({ part }: { part: MessagePart }) => isCarrier(part));
		if (!layout.carrier) return;
		const wire = bytes.subarray(spread.starts[at], spread.starts[at] + spread.lengths[at]);
		try {
			const memory = unpackMemory(layout.carrier, wire);
			if (memory instanceof Uint8Array) this.memory = memory;
			else this.#trouble = `a checksum is ${memory.found}, the data give ${memory.right}`;
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			this.#trouble = error.message;
		}
		if (!this.memory) return;
		const variables = match?.variables ?? { ...readVariables(layout, spread, bytes), slot: 0 };
		const pieces = placesOf(profile, layout.carrier, variables, match?.contents ?? [], this.memory);
		if (typeof pieces === 'string') this.#trouble = pieces;
		else this.#pieces = pieces;
	}

	/** The bytes of it, `start` being the first of them in the message. */
	spans(start: number, length: number): ByteSpan[] {
		const whole: ByteSpan = { start, length, kind: 'record', label: this.#label(), shows: this.#trouble };
		const memory = this.memory;
		const where = memory && this.#pieces.length > 0 ? this.#where(memory) : null;
		if (!where || !memory) return [whole];
		const claims = new Array<Claim | null>(length).fill(null);
		let at = 0;
		this.#pieces.forEach((piece, i) => {
			this.#claimPiece(piece, i, (byte, bits, kind, label, shows) => {
				for (let bit = 0; bit < 8; bit++) {
					if (!(bits & (1 << bit))) continue;
					const on = where[bit][at + byte - piece.at];
					if (on === undefined || on < 0 || on >= length) continue;
					const old = claims[on];
					if (old) old.labels.add(label);
					else claims[on] = { labels: new Set([label]), shows, kind };
				}
			});
			at += piece.bytes.length;
		});
		this.#claimSums(memory, claims);
		return joined(claims, start);
	}

	#label(): string {
		const { part, recordSize } = this.#carrier!;
		if (part.part === 'memory') return 'Memory';
		const { record } = areaOf(this.#profile, part.area);
		return part.part === 'body'
			? `${part.records} × ${record}`
			: part.part === 'listed'
				? `${(this.memory?.length ?? 0) / recordSize} × ${record}`
				: `Part of a ${record}`;
	}

	/** For each bit, by memory byte, the byte of the body that carries it; null where several do. */
	#where(memory: Uint8Array): Int32Array[] | null {
		const { part, recordSize } = this.#carrier!;
		const sums = 'eachSum' in part && part.eachSum !== undefined ? checksumFor(part.eachSum).width : 0;
		if (sums === 0) return bitCarriers(part.packing, memory.length);
		const own = bitCarriers(part.packing, recordSize);
		const each = wireLength(this.#carrier!, recordSize);
		return (
			own?.map((where) =>
				Int32Array.from(memory, (_, i) => {
					const on = where[i % recordSize];
					return on < 0 ? -1 : on + Math.floor(i / recordSize) * each;
				})
			) ?? null
		);
	}

	/** The checksums behind each record. */
	#claimSums(memory: Uint8Array, claims: (Claim | null)[]): void {
		const { part, recordSize } = this.#carrier!;
		if (!('eachSum' in part) || part.eachSum === undefined) return;
		const each = packMemory(this.#carrier!, memory.subarray(0, recordSize)).length;
		const { width } = checksumFor(part.eachSum);
		for (let end = each; end <= claims.length; end += each)
			for (let i = end - width; i < end; i++)
				claims[i] = { labels: new Set(['Checksum']), shows: 'right', kind: 'checksum' };
	}

	#claimPiece(
		{ area: areaId, slot, at, bytes }: Piece,
		number: number,
		claim: (byte: number, bits: number, kind: ByteSpan['kind'], label: string, shows: string) => void
	): void {
		const area = areaOf(this.#profile, areaId);
		const record = this.#profile.records[area.record];
		/** A message that names no slot is not said to be of the first one. */
		const nowhere = this.#match !== null && this.#match.pieces.length === 0;
		const label = nowhere
			? `${area.slotWord} ${area.panel ? 'on the panel' : 'in the edit buffer'}`
			: slotLabel(area.labels, Math.min(area.slots - 1, slot));
		const end = at + bytes.length;
		const isHere = (from: number, size: number) => from >= at && from + size <= end;
		const own = new Uint8Array(record.size);
		own.set(bytes, at);
		const hasName = record.name && textBits(record.name).every((place) => isHere(place.at, 1));
		const name = hasName ? readName(this.#profile, record, own) : null;
		if (bytes.length === record.size || hasName) this.names.push({ label, name });
		if (number >= DETAILED) {
			for (let byte = at; byte < end; byte++)
				claim(byte, 0xff, 'record', `${area.slotWord} ${label}`, name ?? '');
			return;
		}
		const section = sectionsOf(record).find((each) => each.at <= at && at < each.at + each.size);
		const before = this.#pieces.length > 1 ? `${label}: ` : '';
		const within = bytes.length < record.size && section ? `${before}${section.name}: ` : before;
		const field = (
			places: readonly FieldByte[],
			kind: 'name' | 'parameter',
			title: string,
			shows: () => string
		) => {
			const shown = places.every((place) => isHere(place.at, 1)) ? shows() : '';
			for (const { at: byte, mask } of places)
				if (byte >= at && byte < end) claim(byte, mask, kind, `${within}${title}`, shown);
		};
		if (record.name) field(textBits(record.name), 'name', 'Name', () => name ?? '');
		for (const text of record.texts)
			field(textBits(text), 'parameter', text.name, () => readText(this.#profile, text, own));
		for (const parameter of record.parameters) {
			const decides = parameter.when && parameterNamed(record, parameter.when.parameter);
			// What decides it may have travelled in another message.
			const isDecided = !decides || fieldBytes(decides).every((place) => isHere(place.at, 1));
			const meaning = isDecided ? meaningOf(record, parameter, own) : parameter;
			field(fieldBytes(parameter), 'parameter', meaning.name, () =>
				formatValue(meaning, readValue(parameter, own))
			);
		}
	}
}

/** Claims on single bytes as spans. */
function joined(claims: readonly (Claim | null)[], start: number): ByteSpan[] {
	const spans: ByteSpan[] = [];
	claims.forEach((found, at) => {
		const last = spans.at(-1);
		const label = found ? labelOf([...found.labels]) : 'Unclaimed';
		if (last && last.label === label && last.start + last.length === start + at) last.length++;
		else
			spans.push({
				start: start + at,
				length: 1,
				kind: found?.kind ?? 'unclaimed',
				label,
				shows: found?.shows ?? ''
			});
	});
	return spans;
}

/** Several things in one byte: counted, and named. */
const labelOf = (labels: string[]): string =>
	labels.length === 1 ? labels[0] : `${labels.length} values: ${labels.join(', ')}`;
