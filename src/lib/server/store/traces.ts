import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { QueryTypes, type Transaction } from 'sequelize';
import { toHex } from '../../core/midi';
import type { TraceLineData } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { hashOf } from '../hash';
import { getObjects } from './objects';

/** Bytes as they are, or the stored message that they are. */
type PackedLine = [atMs: number, way: TraceLineData['way'], hex: string, says: string, message?: string];

interface Row {
	part: number;
	lines: string;
	packed: Buffer | null;
}

/** Shorter messages are written out: a name would be longer. */
const NAMED_FROM = 40;

const rowsOf = (studio: Studio, id: string, transaction?: Transaction): Promise<Row[]> =>
	studio.sequelize.query<Row>(
		'SELECT part, lines, packed FROM transfer_trace WHERE transferId = :id ORDER BY part',
		{ replacements: { id }, type: QueryTypes.SELECT, transaction }
	);

function unpack({ lines, packed }: Row): PackedLine[] {
	if (packed) return JSON.parse(inflateRawSync(packed).toString('utf8')) as PackedLine[];
	return (JSON.parse(lines) as TraceLineData[]).map(({ atMs, way, hex, says }) => [atMs, way, hex, says]);
}

async function write(
	studio: Studio,
	id: string,
	part: number,
	lines: readonly PackedLine[],
	transaction: Transaction
): Promise<void> {
	await studio.sequelize.query(
		`INSERT INTO transfer_trace (transferId, part, lines, packed) VALUES (?, ?, '', ?)`,
		{
			replacements: [id, part, deflateRawSync(Buffer.from(JSON.stringify(lines)))] as unknown[],
			transaction
		}
	);
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
	const packed = lines.map(({ atMs, way, hex, says }): PackedLine => [atMs, way, hex, says]);
	const there = rows.find((row) => row.part === part);
	if (there && JSON.stringify(unpack(there)) === JSON.stringify(packed)) return;
	const free = there ? Math.max(...rows.map((row) => row.part)) + 1 : part;
	await write(studio, id, free, packed, transaction);
}

/** Puts a transfer's whole log into one part, in which stored messages are named instead of written out. */
export async function packTrace(studio: Studio, id: string, transaction: Transaction): Promise<void> {
	const rows = await rowsOf(studio, id, transaction);
	if (rows.length === 0) return;
	const lines = rows.flatMap(unpack);
	const names = lines.map(([, , hex]) =>
		hex.length >= NAMED_FROM * 2 ? hashOf(Buffer.from(hex, 'hex')) : null
	);
	const wanted = [...new Set(names.filter((name) => name !== null))];
	const stored = new Set<string>();
	for (let i = 0; i < wanted.length; i += 500)
		for (const { hash } of await studio.sequelize.query<{ hash: string }>(
			'SELECT hash FROM objects WHERE hash IN (:list)',
			{ replacements: { list: wanted.slice(i, i + 500) }, type: QueryTypes.SELECT, transaction }
		))
			stored.add(hash);
	await studio.sequelize.query('DELETE FROM transfer_trace WHERE transferId = ?', {
		replacements: [id],
		transaction
	});
	await write(
		studio,
		id,
		0,
		lines.map((line, i): PackedLine => {
			const name = names[i];
			return name && stored.has(name) ? [line[0], line[1], '', line[3], name] : line;
		}),
		transaction
	);
}

/** The whole log of a transfer. Messages that retention let go are told as such. */
export async function readTrace(studio: Studio, id: string): Promise<TraceLineData[]> {
	const lines = (await rowsOf(studio, id)).flatMap(unpack);
	const messages = new Map<string, string | null>();
	for (const [, , , , name] of lines)
		if (name && !messages.has(name))
			messages.set(
				name,
				await getObjects(studio, [name]).then(
					([bytes]) => toHex(bytes),
					() => null
				)
			);
	return lines.map(([atMs, way, hex, says, name]) => {
		if (!name) return { atMs, way, hex, says };
		const bytes = messages.get(name)!;
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
	const [row] = await studio.sequelize.query<{ next: number }>(
		'SELECT COALESCE(MAX(part) + 1, 0) AS next FROM transfer_trace WHERE transferId = :id',
		{ replacements: { id }, type: QueryTypes.SELECT }
	);
	return row.next;
}
