import type { Transaction } from 'sequelize';
import { mapSchema, walksSince, type ControlMap, type SentPage } from '../../core/control';
import type { Studio } from '../db/connection';
import { all, one, parsed, run, stored } from './sql';

/** A map as it is kept. */
export interface KeptMap {
	id: string;
	document: ControlMap;
	/** Goes up with every change. */
	revision: number;
	createdAt: string;
	updatedAt: string;
	/** When it was taken away; it can be brought back. */
	removedAt: string | null;
}

type Row = Omit<KeptMap, 'document'> & { document: string; sent: string };

/** Of its walks, only those count that no page was sent after. */
function told({ sent, ...row }: Row): KeptMap {
	const document = stored(mapSchema, parsed(row.document));
	return {
		...row,
		document: { ...document, walked: walksSince(document.walked, parsed(sent) as SentPage[]) }
	};
}

/** Notes that pages of a map were written into a controller. */
export async function noteSent(
	studio: Studio,
	id: string,
	pages: readonly SentPage[],
	transaction: Transaction
): Promise<void> {
	const row = await one<{ sent: string }>(studio, 'SELECT sent FROM maps WHERE id = ?', [id], transaction);
	const before = row ? (parsed(row.sent) as SentPage[]) : [];
	const stays = before.filter(
		({ page, world }) => !pages.some((each) => each.page === page && each.world === world)
	);
	await run(
		studio,
		'UPDATE maps SET sent = ?, revision = revision + 1 WHERE id = ?',
		[JSON.stringify([...stays, ...pages]), id],
		transaction
	);
}

/** Maps that were not taken away, the one that was changed last first. */
export async function mapRows(studio: Studio): Promise<KeptMap[]> {
	const rows = await all<Row>(
		studio,
		'SELECT * FROM maps WHERE removedAt IS NULL ORDER BY updatedAt DESC, id DESC'
	);
	return rows.map(told);
}

/** All maps of a surface, those that were taken away, too: they can be brought back. */
export async function mapsOfSurface(
	studio: Studio,
	surface: string,
	transaction: Transaction
): Promise<KeptMap[]> {
	const rows = await all<Row>(
		studio,
		`SELECT * FROM maps WHERE json_extract(document, '$.surface.id') = ?`,
		[surface],
		transaction
	);
	return rows.map(told);
}

export async function mapRow(studio: Studio, id: string, transaction?: Transaction): Promise<KeptMap | null> {
	const row = await one<Row>(studio, 'SELECT * FROM maps WHERE id = ?', [id], transaction);
	return row ? told(row) : null;
}

export async function insertMap(studio: Studio, map: KeptMap, transaction: Transaction): Promise<void> {
	await run(
		studio,
		'INSERT INTO maps (id, document, revision, createdAt, updatedAt, removedAt) VALUES (?, ?, ?, ?, ?, ?)',
		[map.id, JSON.stringify(map.document), map.revision, map.createdAt, map.updatedAt, map.removedAt],
		transaction
	);
}

export async function putDocument(
	studio: Studio,
	{ id, document, updatedAt }: Pick<KeptMap, 'id' | 'document' | 'updatedAt'>,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'UPDATE maps SET document = ?, revision = revision + 1, updatedAt = ? WHERE id = ?',
		[JSON.stringify(document), updatedAt, id],
		transaction
	);
}

export async function markRemoved(
	studio: Studio,
	id: string,
	at: string | null,
	transaction: Transaction
): Promise<void> {
	await run(studio, 'UPDATE maps SET removedAt = ? WHERE id = ?', [at, id], transaction);
}
