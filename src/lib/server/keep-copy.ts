import { existsSync, renameSync, statSync } from 'node:fs';
import type { Studio } from './db/connection';
import { askApart, copyApart } from './db/apart';

/** How old the copy of each day may be. */
const KEPT_MS = 20 * 3600 * 1000;

/**
 * Copies the studio as it is beside its file, once a day at the most, and keeps the copy before: a damaged studio is brought
 * back from it. One whose structure is damaged never takes the place of a copy, and an empty one none of a full one's.
 * @throws Error of the disk, or of SQLite
 */
export async function keepCopy(studio: Studio): Promise<'kept' | 'young' | 'empty' | 'damaged'> {
	const copy = `${studio.file}.copy`;
	if (existsSync(copy) && Date.now() - statSync(copy).mtimeMs < KEPT_MS) return 'young';
	const [held] = await askApart(studio.file, 'SELECT EXISTS (SELECT * FROM devices) AS any');
	if (!held.any) return 'empty';
	const [sound] = await askApart(studio.file, 'PRAGMA integrity_check(1)');
	if (sound.integrity_check !== 'ok') return 'damaged';
	const fresh = `${copy}-new`;
	await copyApart(studio.file, fresh);
	if (existsSync(copy)) renameSync(copy, `${copy}-before`);
	renameSync(fresh, copy);
	return 'kept';
}
