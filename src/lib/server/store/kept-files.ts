import type { Transaction } from 'sequelize';
import type { KeptFile } from '../../core/kept-file';
import type { Studio } from '../db/connection';
import { all, one, run } from './sql';

/** A file that is kept with a map (its id) or a device (`device:` and its id), with what it holds. */
export interface StoredFile extends KeptFile {
	owner: string;
	bytes: Uint8Array;
}

const FACTS = 'id, name, at, note, size, lower(hex(hash)) AS hash';

/** The files of an owner that were not taken away, newest first. */
export const keptFileRows = (studio: Studio, owner: string, transaction?: Transaction): Promise<KeptFile[]> =>
	all<KeptFile>(
		studio,
		`SELECT ${FACTS} FROM kept_files WHERE owner = ? AND removedAt IS NULL ORDER BY at DESC, rowid DESC`,
		[owner],
		transaction
	);

export async function keptFileRow(studio: Studio, id: string): Promise<StoredFile | null> {
	const row = await one<StoredFile>(studio, `SELECT ${FACTS}, owner, bytes FROM kept_files WHERE id = ?`, [
		id
	]);
	return row ? { ...row, bytes: new Uint8Array(row.bytes) } : null;
}

/** Ids of all files, those that were taken away, too. */
export const keptFileIds = async (studio: Studio, transaction?: Transaction): Promise<string[]> =>
	(await all<{ id: string }>(studio, 'SELECT id FROM kept_files ORDER BY rowid', [], transaction)).map(
		({ id }) => id
	);

/** The files of all owners that were not taken away. */
export const keptFileFacts = (studio: Studio): Promise<Omit<StoredFile, 'bytes'>[]> =>
	all(studio, `SELECT ${FACTS}, owner FROM kept_files WHERE removedAt IS NULL ORDER BY rowid`);

export async function insertKeptFile(
	studio: Studio,
	file: StoredFile,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'INSERT INTO kept_files (id, owner, name, at, note, hash, size, bytes) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
		[
			file.id,
			file.owner,
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
	await run(studio, 'UPDATE kept_files SET removedAt = ? WHERE id = ?', [at, id], transaction);
}
