import type { Transaction } from 'sequelize';
import { mapSchema, walksSince, type ControlMap, type Edit, type SentPage } from '../../core/control';
import type { Studio } from '../db/connection';
import { all, one, parsed, run } from './sql';

/** How many steps of a map can be taken back. */
const KEPT = 200;

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
	const document = mapSchema.parse(parsed(row.document));
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

/** Edits of a map that were made at one go. */
export interface MapStep {
	id: number;
	says: string;
	edits: Edit[];
	undo: Edit[];
}
export type MapStepName = Pick<MapStep, 'id' | 'says'>;

/** Adds a step; what was undone before cannot be redone from then on. */
export async function addMapStep(
	studio: Studio,
	step: Omit<MapStep, 'id'> & { mapId: string; at: string },
	transaction: Transaction
): Promise<void> {
	await run(studio, 'DELETE FROM map_steps WHERE mapId = ? AND undone = 1', [step.mapId], transaction);
	await run(
		studio,
		'INSERT INTO map_steps (mapId, at, says, edits, undo) VALUES (?, ?, ?, ?, ?)',
		[step.mapId, step.at, step.says, JSON.stringify(step.edits), JSON.stringify(step.undo)],
		transaction
	);
	await run(
		studio,
		`DELETE FROM map_steps WHERE mapId = ? AND id <= (
			SELECT id FROM map_steps WHERE mapId = ? ORDER BY id DESC LIMIT 1 OFFSET ?)`,
		[step.mapId, step.mapId, KEPT],
		transaction
	);
}

/** The step that would be undone next, or redone next. */
export async function nextMapStep(
	studio: Studio,
	mapId: string,
	way: 'undo' | 'redo',
	transaction?: Transaction
): Promise<MapStep | null> {
	const row = await one<Record<'says' | 'edits' | 'undo', string> & { id: number }>(
		studio,
		way === 'undo'
			? 'SELECT * FROM map_steps WHERE mapId = ? AND undone = 0 ORDER BY id DESC LIMIT 1'
			: 'SELECT * FROM map_steps WHERE mapId = ? AND undone = 1 ORDER BY id LIMIT 1',
		[mapId],
		transaction
	);
	return row
		? {
				id: row.id,
				says: row.says,
				edits: parsed(row.edits) as Edit[],
				undo: parsed(row.undo) as Edit[]
			}
		: null;
}

export async function markMapStep(
	studio: Studio,
	id: number,
	undone: boolean,
	transaction: Transaction
): Promise<void> {
	await run(studio, 'UPDATE map_steps SET undone = ? WHERE id = ?', [Number(undone), id], transaction);
}
