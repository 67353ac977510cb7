import type { Transaction } from 'sequelize';
import type { MapFile } from '../../core/control';
import type { Studio } from '../db/connection';
import { all, one, run } from './sql';

/** A file that is kept for a map, with what it holds. */
export interface StoredMapFile extends MapFile {
	mapId: string;
	bytes: Uint8Array;
}

const FACTS = 'id, name, at, note, size, lower(hex(hash)) AS hash';

/** The files of a map that were not taken away, newest first. */
export const mapFileRows = (studio: Studio, mapId: string, transaction?: Transaction): Promise<MapFile[]> =>
	all<MapFile>(
		studio,
		`SELECT ${FACTS} FROM map_files WHERE mapId = ? AND removedAt IS NULL ORDER BY at DESC, rowid DESC`,
		[mapId],
		transaction
	);

export async function mapFileRow(studio: Studio, id: string): Promise<StoredMapFile | null> {
	const row = await one<StoredMapFile>(studio, `SELECT ${FACTS}, mapId, bytes FROM map_files WHERE id = ?`, [
		id
	]);
	return row ? { ...row, bytes: new Uint8Array(row.bytes) } : null;
}

/** Ids of all files, those that were taken away, too. */
export const mapFileIds = async (studio: Studio): Promise<string[]> =>
	(await all<{ id: string }>(studio, 'SELECT id FROM map_files ORDER BY rowid')).map(({ id }) => id);

export async function insertMapFile(
	studio: Studio,
	file: StoredMapFile,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'INSERT INTO map_files (id, mapId, name, at, note, hash, size, bytes) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
		[
			file.id,
			file.mapId,
			file.name,
			file.at,
			file.note,
			Buffer.from(file.hash, 'hex'),
			file.size,
			Buffer.from(file.bytes)
		],
		transaction
	);
}

export async function markFileRemoved(
	studio: Studio,
	id: string,
	at: string | null,
	transaction: Transaction
): Promise<void> {
	await run(studio, 'UPDATE map_files SET removedAt = ? WHERE id = ?', [at, id], transaction);
}
