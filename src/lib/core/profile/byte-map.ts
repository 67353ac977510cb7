import { CHECKSUMS, PACKINGS } from '../sysex';
import { Problem } from '../problem';
import { formatValue, readParameter } from './parameter';
import { readName, readText } from './charset';
import { isMatch, layoutOf, layoutsOf, matchMessage, type Mismatch } from './layout';
import type { Profile } from './schema';
import { areaOf, slotLabel } from './slots';

/** What claims bytes of a message. `start` and `length` in bytes of the message. */
export interface ByteSpan {
	start: number;
	length: number;
	kind: 'fixed' | 'variable' | 'checksum' | 'name' | 'parameter' | 'record' | 'unclaimed';
	label: string;
	/** What it holds, as people read it. */
	shows: string;
	/** For a checksum: whether it is right; for fixed bytes, whether they are there. */
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

/**
 * Which part of a profile's layouts claims each byte of a message, under the layout that fits best; live feedback for
 * somebody who writes the profile. Record bytes are shown by the message bytes that carry them.
 */
export function byteMap(profile: Profile, bytes: Uint8Array): ByteMap {
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
	const best = results.toSorted((a, b) => agrees(b) - agrees(a))[0];
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
	const layout = layoutOf(profile, best.layout.id);
	const spans: ByteSpan[] = [];
	const names: ByteMap['names'] = [];
	for (const { part, start, length, fixed } of layout.parts) {
		if (start >= bytes.length) break;
		const there = Math.min(length, bytes.length - start);
		const piece = bytes.subarray(start, start + there);
		if (part.part === 'bytes')
			spans.push({
				start,
				length: there,
				kind: 'fixed',
				label: part.name ?? 'Fixed bytes',
				shows: '',
				right: piece.every((byte, i) => byte === fixed![i])
			});
		else if (part.part === 'variable') {
			const wire = part.width === 1 ? piece[0] : (piece[0] << 7) | (piece[1] ?? 0);
			const value = (wire - part.add) * part.divide + (part.variable === 'channel' ? 1 : 0);
			spans.push({
				start,
				length: there,
				kind: 'variable',
				label: { deviceId: 'Device ID', channel: 'Channel', slot: 'Slot' }[part.variable],
				shows: String(value)
			});
		} else if (part.part === 'checksum') {
			const from = layout.parts.find((placed) => placed.part.name === part.from)!;
			const to = layout.parts.find((placed) => placed.part.name === part.to)!;
			const right = CHECKSUMS[part.checksum].of(bytes.subarray(from.start, to.start + to.length));
			const agreesWith = there === length && right.every((byte, i) => byte === piece[i]);
			spans.push({
				start,
				length: there,
				kind: 'checksum',
				label: 'Checksum',
				shows: agreesWith
					? 'right'
					: `wrong: the data give ${[...right].map((byte) => byte.toString(16).padStart(2, '0')).join(' ')}`,
				right: agreesWith
			});
		} else spans.push(...bodySpans(profile, bytes, part, start, there, best.result, names));
	}
	const end = layout.length;
	if (bytes.length > end)
		spans.push({ start: end, length: bytes.length - end, kind: 'unclaimed', label: 'Unclaimed', shows: '' });
	spans.sort((a, b) => a.start - b.start);
	return {
		messageId: layout.id,
		title: layout.title,
		fault: isMatch(best.result) ? null : best.result,
		spans,
		names,
		claimed: spans.reduce((sum, { kind, length }) => sum + (kind === 'unclaimed' ? 0 : length), 0),
		total: bytes.length
	};
}

type Body = Extract<Profile['messages'][string]['parts'][number], { part: 'body' }>;

function bodySpans(
	profile: Profile,
	bytes: Uint8Array,
	part: Body,
	start: number,
	length: number,
	result: ReturnType<typeof matchMessage>,
	names: ByteMap['names']
): ByteSpan[] {
	const area = areaOf(profile, part.area);
	const record = profile.records[area.record];
	const whole: ByteSpan = {
		start,
		length,
		kind: 'record',
		label: `${part.records} × ${area.record}`,
		shows: ''
	};
	let memory: Uint8Array;
	try {
		memory = PACKINGS[part.packing].unpack(bytes.subarray(start, start + length));
	} catch (error) {
		if (error instanceof Problem) return [{ ...whole, shows: error.message }];
		throw error;
	}
	const where = carriers(part.packing, memory.length);
	if (!where) return [whole];
	const first = isMatch(result) ? result.firstSlot : 0;
	/** A message that names no slot is not said to be of the first one. */
	const nowhere = isMatch(result) && result.area === null;
	const labelOfRecord = (i: number) =>
		nowhere
			? `${area.slotWord} ${area.panel ? 'on the panel' : 'in the edit buffer'}`
			: slotLabel(area.labels, Math.min(area.slots - 1, first + i));
	const claims = new Array<{ labels: Set<string>; shows: string; kind: ByteSpan['kind'] } | null>(
		length
	).fill(null);
	/** Claims the packed bytes that carry these bits of a memory byte. */
	const claim = (at: number, bits: number, kind: ByteSpan['kind'], label: string, shows: string) => {
		for (let bit = 0; bit < 8; bit++) {
			if (!(bits & (1 << bit))) continue;
			const byte = where[bit][at];
			if (byte === undefined || byte < 0 || byte >= length) continue;
			const old = claims[byte];
			if (old) old.labels.add(label);
			else claims[byte] = { labels: new Set([label]), shows, kind };
		}
	};
	for (let i = 0; i < part.records; i++) {
		const from = i * record.size;
		const own = memory.subarray(from, from + record.size);
		if (own.length < record.size) break;
		const slot = labelOfRecord(i);
		const name = readName(profile, record, own);
		names.push({ label: slot, name });
		if (i >= DETAILED) {
			for (let at = 0; at < record.size; at++)
				claim(from + at, 0xff, 'record', `${area.slotWord} ${slot}`, name ?? '');
			continue;
		}
		const at = part.records > 1 ? `${slot}: ` : '';
		if (record.name)
			for (let n = 0; n < record.name.length; n++)
				claim(from + record.name.offset + n, 0xff, 'name', `${at}Name`, name ?? '');
		for (const text of record.texts)
			for (let n = 0; n < text.length; n++)
				claim(from + text.offset + n, 0xff, 'parameter', `${at}${text.name}`, readText(profile, text, own));
		for (const parameter of record.parameters) {
			const span = Math.ceil((parameter.bit + parameter.bits) / 8);
			const field = (2 ** parameter.bits - 1) * 2 ** parameter.bit;
			for (let n = 0; n < span; n++) {
				const place = parameter.order === 'high-first' ? span - 1 - n : n;
				claim(
					from + parameter.offset + n,
					Math.floor(field / 256 ** place) & 0xff,
					'parameter',
					`${at}${parameter.name}`,
					formatValue(parameter, readParameter(parameter, own))
				);
			}
		}
	}
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

const PROBE = 56;

/**
 * For each bit, by memory byte, the packed byte that carries it, found by asking the packing itself; -1 where that bit
 * cannot travel. Packings repeat after 56 bytes at most, so that a longer body follows from a short one. Null where
 * a bit is carried by several bytes.
 */
function carriers(packing: Body['packing'], size: number): Int32Array[] | null {
	const { pack } = PACKINGS[packing];
	const probe = Math.min(size, PROBE);
	const plain = pack(new Uint8Array(probe));
	const ratio = size > probe ? pack(new Uint8Array(probe * 2)).length - plain.length : 0;
	const table: Int32Array[] = [];
	for (let bit = 0; bit < 8; bit++) {
		const where = new Int32Array(size);
		for (let i = 0; i < probe; i++) {
			const changed = packedOrNull(pack, new Uint8Array(probe).with(i, 1 << bit));
			const at = changed ? changed.findIndex((byte, n) => byte !== plain[n]) : -1;
			if (changed && changed.findLastIndex((byte, n) => byte !== plain[n]) !== at) return null;
			where[i] = at;
		}
		for (let i = probe; i < size; i++)
			where[i] = where[i % probe] < 0 ? -1 : where[i % probe] + Math.floor(i / probe) * ratio;
		table.push(where);
	}
	return table;
}

function packedOrNull(pack: (memory: Uint8Array) => Uint8Array, memory: Uint8Array): Uint8Array | null {
	try {
		return pack(memory);
	} catch (error) {
		if (error instanceof Problem) return null;
		throw error;
	}
}
