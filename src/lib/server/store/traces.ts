import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { Transaction } from 'sequelize';
import { toHex } from '../../core/midi';
import type { TraceLineData } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { hashOf } from '../hash';
import { getObjects, namesOfObjects, storedObjects } from './objects';
import { all, one, run } from './sql';

/** Bytes as they are, or the stored message that they are: by its number, once by its name. */
type Line = [atMs: number, way: TraceLineData['way'], hex: string, says: string, message?: number | string];

/** Lines side by side: times as steps from one to the next, texts by where they stand in the list of texts. */
interface Columns {
	at: number[];
	way: string;
	hex: number[];
	says: number[];
	message: (number | 0)[];
	texts: string[];
}

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
	'"Asked again: the answer did not come."Damaged message"Not for this device"Received"Sent"Write request"Bank dump"' +
		'"Program dump"Request"Acknowledged"Identity reply"Identity request"f07e7f0601f7"f07e00060200"f07d"' +
		'{"at":[0,4,6,10,"way":"srsrsrsr","hex":[0,1,2,0,0,"says":[0,1,2,3,"message":[0,0,0,"texts":["","'
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

function pack(lines: readonly Line[]): Buffer {
	const texts: string[] = [];
	const places = new Map<string, number>();
	const place = (text: string): number => {
		let at = places.get(text);
		if (at === undefined) places.set(text, (at = texts.push(text) - 1));
		return at;
	};
	const first = lines.map(([, , , , message]) => message).find((message) => typeof message === 'number') ?? 0;
	let before = 0;
	const columns: Columns & { first: number } = {
		at: lines.map(([atMs]) => {
			const step = atMs - before;
			before = atMs;
			return step;
		}),
		way: lines.map(([, way]) => way[0]).join(''),
		hex: lines.map(([, , hex]) => place(hex)),
		says: lines.map(([, , , says]) => place(says)),
		// From 1, counted from the first that is named.
		message: lines.map(([, , , , message]) => (typeof message === 'number' ? message - first + 1 : 0)),
		texts,
		first
	};
	return deflateRawSync(Buffer.from(JSON.stringify(columns)), { dictionary: DICTIONARY, level: 9 });
}

function unpack({ form, lines, packed }: Row): Line[] {
	if (packed === null)
		return (JSON.parse(lines!) as TraceLineData[]).map(({ atMs, way, hex, says }) => [atMs, way, hex, says]);
	if (form === 0) return JSON.parse(inflateRawSync(packed).toString('utf8')) as Line[];
	const columns = JSON.parse(
		inflateRawSync(packed, { dictionary: DICTIONARY }).toString('utf8')
	) as Columns & { first: number };
	let at = 0;
	return columns.at.map((step, i): Line => {
		at += step;
		const message = columns.message[i];
		return [
			at,
			WAYS[columns.way[i]],
			columns.texts[columns.hex[i]],
			columns.texts[columns.says[i]],
			...(message === 0 ? [] : [message - 1 + columns.first])
		] as Line;
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
	const fresh = lines.map(({ atMs, way, hex, says }): Line => [Math.round(atMs), way, hex, says]);
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

/** The whole log of a transfer. Messages that retention let go are told as such. */
export async function readTrace(studio: Studio, id: string): Promise<TraceLineData[]> {
	const lines = (await rowsOf(studio, id)).flatMap(unpack);
	const told = lines.flatMap(([, , , , message]) => message ?? []);
	const names = await namesOfObjects(
		studio,
		told.filter((message) => typeof message === 'number')
	);
	const nameOf = (message: number | string) => (typeof message === 'number' ? names.get(message) : message);
	const messages = new Map<string, string | null>();
	for (const message of told) {
		const name = nameOf(message);
		if (name === undefined || messages.has(name)) continue;
		messages.set(
			name,
			await getObjects(studio, [name]).then(
				([bytes]) => toHex(bytes),
				() => null
			)
		);
	}
	return lines.map(([atMs, way, hex, says, message]) => {
		if (message === undefined) return { atMs, way, hex, says };
		const bytes = messages.get(nameOf(message) ?? '') ?? null;
		return {
			atMs,
			way,
			hex: bytes ?? '',
			says: bytes === null ? `${says} (its bytes are no longer kept)` : says
		};
	});
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
