import { BodyMap } from './body-map';
import { countedIn, rangeOf } from './build';
import type { ByteSpan, NamedSlot } from './byte-span';
import { checksumFor, isCarrier } from './carrier';
import { layoutsOf, spreadOver, startsOf, variablesIn, type Layout, type Spread } from './layout';
import { isMatch, matchMessage, type Mismatch } from './match';
import type { PartOf, Profile, VariableName } from './schema';
import { numberAt } from './wire-number';

export interface ByteMap {
	messageId: string | null;
	title: string;
	/** Why the message is not read, or null. */
	fault: Mismatch | null;
	spans: ByteSpan[];
	/** Names of the slots in it, as decoded. */
	names: NamedSlot[];
	claimed: number;
	total: number;
}

const VARIABLE_WORDS: Record<VariableName, string> = {
	deviceId: 'Device ID',
	channel: 'Channel',
	slot: 'Slot',
	part: 'Part',
	packet: 'Packet',
	address: 'Address',
	size: 'Size',
	total: 'Checksum over all'
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
	return { starts: startsOf(lengths), lengths, records: 0 };
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
			case 'status':
				return [
					{
						...span,
						kind: 'variable',
						label: VARIABLE_WORDS.channel,
						shows: String((piece[0] & 15) + 1)
					}
				];
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
	const counted = countedIn(part, layout, spread, memory?.length ?? 0);
	const right = says === counted;
	return { shows: right ? String(says) : `wrong: says ${says}, it holds ${counted}`, right };
}
