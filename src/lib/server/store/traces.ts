import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { Transaction } from 'sequelize';
import { toHex } from '../../core/midi';
import type { TraceLineData } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { hashOf } from '../hash';
import { namesOfObjects, readObjects, storedObjects } from './objects';
import { all, one, parsed, run } from './sql';

/** Bytes as they are, or the stored message that they are: by its number, once by its name. */
type Line = [atMs: number, way: TraceLineData['way'], hex: string, says: string, message?: number | string];

interface Row {
	part: number;
	form: number;
	lines: string | null;
	packed: Buffer | null;
}

/** Shorter messages are written out: a name would be longer. */
const NAMED_FROM = 16;

/**
 * What logs say most, for the packing: kept for ever, as what was packed with it is unpacked with it. A new one would
 * be a new form.
 */
const DICTIONARY = Buffer.from(
	'n0Damaged message\nn0Not for this device\ts2Write request\ts2Acknowledge\tr4Acknowledged\tr4Kit dump\tr4Program dump\t#0\n' +
		's0Program request\tf07d\nr4System dump\t#1\ns0Identity request\tf07e7f0601f7\nr4Identity reply\tf07e000602\n' +
		's2Bank request\tf07d\ns2Request\tf07d210010f7\nr4Bank dump\t#1\n'
);

const WAYS: Record<string, TraceLineData['way']> = { s: 'sent', r: 'received', n: 'note' };

const rowsOf = (studio: Studio, id: string, transaction?: Transaction): Promise<Row[]> =>
	all<Row>(
		studio,
		`SELECT part, form, lines, packed FROM transfer_trace
		 WHERE transfer = (SELECT seq FROM transfers WHERE id = ?) ORDER BY part`,
		[id],
		transaction
	);

/** A text inside a line: without line ends and tabs of its own, and told apart from the number before it. */
const inLine = (text: string) => (/^[\d|]/.test(text) ? '|' : '') + JSON.stringify(text).slice(1, -1);
const fromLine = (text: string) => JSON.parse(`"${text}"`) as string;

/** Lines as text, times (in tenths of a millisecond) and numbers of messages as steps from one to the next: what repeats packs well. */
function pack(lines: readonly Line[]): Buffer {
	let [time, last] = [0, 0];
	const text = lines.map(([atMs, way, hex, says, message]) => {
		const step = Math.round(atMs * 10) - time;
		time += step;
		if (typeof message !== 'number') return `${way[0]}${step}${inLine(says)}\t${hex}`;
		const to = message - last;
		last = message;
		return `${way[0]}${step}${inLine(says)}\t#${to}`;
	});
	return deflateRawSync(Buffer.from(text.join('\n')), { dictionary: DICTIONARY, level: 9 });
}

function unpack({ form, lines, packed }: Row): Line[] {
	if (packed === null)
		return (parsed(lines!) as TraceLineData[]).map(({ atMs, way, hex, says }) => [atMs, way, hex, says]);
	if (form === 0) return parsed(inflateRawSync(packed).toString('utf8')) as Line[];
	const text = inflateRawSync(packed, { dictionary: DICTIONARY }).toString('utf8');
	let [time, last] = [0, 0];
	return text.split('\n').map((line): Line => {
		const [, way, step, says, hex] = /^(.)(-?\d+)\|?(.*)\t(.*)$/s.exec(line)!;
		time += Number(step);
		if (!hex.startsWith('#')) return [time / 10, WAYS[way], hex, fromLine(says)];
		last += Number(hex.slice(1));
		return [time / 10, WAYS[way], '', fromLine(says), last];
	});
}

async function write(
	studio: Studio,
	id: string,
	part: number,
	lines: readonly Line[],
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		`INSERT INTO transfer_trace (transfer, part, form, packed) SELECT seq, ?2, 1, ?3 FROM transfers WHERE id = ?1`,
		[id, part, pack(lines)],
		transaction
	);
}

/** Lines in which messages that are stored are named instead of written out. */
async function named(studio: Studio, lines: readonly Line[], transaction: Transaction): Promise<Line[]> {
	const names = lines.map(([, , hex, , message]) =>
		message === undefined && hex.length >= NAMED_FROM * 2 ? hashOf(Buffer.from(hex, 'hex')) : null
	);
	const wanted = names.filter((name) => name !== null);
	const stored =
		wanted.length > 0 ? await storedObjects(studio, wanted, transaction) : new Map<string, number>();
	return lines.map((line, i): Line => {
		const name = names[i];
		const message = name === null ? undefined : stored.get(name);
		return message === undefined ? line : [line[0], line[1], '', line[3], message];
	});
}

/** Whether both say the same, wherever one names a message and the other writes it out. */
async function same(
	studio: Studio,
	a: readonly Line[],
	b: readonly Line[],
	transaction: Transaction
): Promise<boolean> {
	const [x, y] = [await named(studio, a, transaction), await named(studio, b, transaction)];
	return JSON.stringify(x) === JSON.stringify(y);
}

/**
 * Adds lines to a transfer's log. The same part told again changes nothing; another one under its number is put
 * behind what is there.
 */
export async function addTrace(
	studio: Studio,
	id: string,
	part: number,
	lines: readonly TraceLineData[],
	transaction: Transaction
): Promise<void> {
	const rows = await rowsOf(studio, id, transaction);
	const fresh = lines.map(({ atMs, way, hex, says }): Line => [Math.round(atMs * 10) / 10, way, hex, says]);
	const there = rows.find((row) => row.part === part);
	if (there && (await same(studio, unpack(there), fresh, transaction))) return;
	const free = there ? Math.max(...rows.map((row) => row.part)) + 1 : part;
	await write(studio, id, free, await named(studio, fresh, transaction), transaction);
}

/** Puts a transfer's whole log into one part, in which stored messages are named instead of written out. */
export async function packTrace(studio: Studio, id: string, transaction: Transaction): Promise<void> {
	const rows = await rowsOf(studio, id, transaction);
	if (rows.length === 0) return;
	const written = rows.flatMap(unpack);
	const lines = await named(studio, written, transaction);
	if (rows.length === 1 && lines.every((line, i) => line === written[i])) return;
	await run(
		studio,
		'DELETE FROM transfer_trace WHERE transfer = (SELECT seq FROM transfers WHERE id = ?)',
		[id],
		transaction
	);
	await write(studio, id, 0, lines, transaction);
}

/** The whole log of a transfer. Messages that retention let go are told as such, and so are damaged ones. */
export async function readTrace(studio: Studio, id: string): Promise<TraceLineData[]> {
	const lines = (await rowsOf(studio, id)).flatMap(unpack);
	const told = lines.flatMap(([, , , , message]) => message ?? []);
	const names = await namesOfObjects(
		studio,
		told.filter((message) => typeof message === 'number')
	);
	const nameOf = (message: number | string) => (typeof message === 'number' ? names.get(message) : message);
	const wanted = told.flatMap((message) => nameOf(message) ?? []);
	const messages = await readObjects(studio, wanted);
	const lost = wanted.filter((name) => !(messages.get(name) instanceof Uint8Array));
	const kept = lost.length > 0 ? await storedObjects(studio, lost) : new Map<string, number>();
	return lines.map(([atMs, way, hex, says, message]) => {
		if (message === undefined) return { atMs, way, hex, says };
		const name = nameOf(message) ?? '';
		const bytes = messages.get(name);
		if (bytes instanceof Uint8Array) return { atMs, way, hex: toHex(bytes), says };
		const why = kept.has(name) ? 'are damaged in the store: run “check”' : 'are no longer kept';
		return { atMs, way, hex: '', says: `${says} (its bytes ${why})` };
	});
}

/** A line of a log as a bundle carries it: with the name (SHA-256) of a message that is stored, instead of its bytes. */
export type CarriedLine = TraceLineData & { message?: string };

/** The whole log of a transfer, for a bundle. */
export async function carriedTrace(studio: Studio, id: string): Promise<CarriedLine[]> {
	const lines = (await rowsOf(studio, id)).flatMap(unpack);
	const names = await namesOfObjects(
		studio,
		lines.flatMap(([, , , , message]) => (typeof message === 'number' ? [message] : []))
	);
	return lines.map(([atMs, way, hex, says, message]) => ({
		atMs,
		way,
		hex,
		says,
		...(message === undefined
			? {}
			: { message: (typeof message === 'number' ? names.get(message) : message) ?? '' })
	}));
}

/** Keeps the log of a bundle's transfer. Messages that are stored here are named; of others it is said that they are not. */
export async function putCarriedTrace(
	studio: Studio,
	id: string,
	lines: readonly CarriedLine[],
	transaction: Transaction
): Promise<void> {
	if (lines.length === 0) return;
	const stored = await storedObjects(
		studio,
		lines.flatMap(({ message }) => message || []),
		transaction
	);
	const written = lines.map(({ atMs, way, hex, says, message }): Line => {
		if (message === undefined) return [atMs, way, hex, says];
		const number = stored.get(message);
		return number === undefined
			? [atMs, way, '', `${says} (its bytes are no longer kept)`]
			: [atMs, way, '', says, number];
	});
	await write(studio, id, 0, written, transaction);
}

/** The next free part of the log, for a transfer that is resumed. */
export async function nextPart(studio: Studio, id: string): Promise<number> {
	const row = await one<{ next: number }>(
		studio,
		`SELECT COALESCE(MAX(part) + 1, 0) AS next FROM transfer_trace
		 WHERE transfer = (SELECT seq FROM transfers WHERE id = ?)`,
		[id]
	);
	return row!.next;
}
