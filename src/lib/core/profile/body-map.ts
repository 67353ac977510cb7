import { Problem } from '../problem';
import { bitCarriers } from './bit-carriers';
import type { ByteSpan, NamedSlot } from './byte-span';
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
import { bitsOfTexts, claimedBits, textFields } from './claims';
import { fieldBytes, type FieldByte } from './field';
import type { Layout, Spread } from './layout';
import { readVariables, type Match } from './match';
import { meaningOf, parameterNamed } from './meaning';
import { formatValue } from './parameter';
import type { Profile } from './schema';
import { sectionsOf } from './sections';
import { areaOf, slotLabel } from './slots';
import { textBits } from './text-codes';
import { readValue } from './value';

/** How many records are mapped parameter by parameter; more would only repeat. */
const DETAILED = 4;

interface Claim {
	labels: Set<string>;
	shows: string;
	kind: ByteSpan['kind'];
}

/** The part of a message that carries memory, byte by byte. */
export class BodyMap {
	/** What it carries; null where it cannot be unpacked. */
	readonly memory: Uint8Array | null = null;
	readonly names: NamedSlot[] = [];
	readonly #profile: Profile;
	readonly #carrier: Carrier | null;
	readonly #match: Match | null;
	readonly #pieces: Piece[] = [];
	#trouble = '';

	constructor(profile: Profile, layout: Layout, spread: Spread, bytes: Uint8Array, match: Match | null) {
		this.#profile = profile;
		this.#carrier = layout.carrier;
		this.#match = match;
		const at = layout.parts.findIndex(({ part }) => isCarrier(part));
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
			: part.part === 'column'
				? `${part.records} × ${part.section}`
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
			// Told together, and only what is described of them.
			const described = claimedBits(record);
			const texts = bitsOfTexts(record.size, textFields(record));
			for (let byte = at; byte < end; byte++) {
				const bits = described[byte] | texts[byte];
				if (bits !== 0) claim(byte, bits, 'record', `${area.slotWord} ${label}`, name ?? '');
			}
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
