import { closeSync, existsSync, fsyncSync, openSync, renameSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import sqlite3 from 'sqlite3';

/** Files that SQLite keeps beside a studio's while it is written to: what is in them belongs to it. */
export const COMPANIONS = ['-wal', '-shm', '-journal'] as const;

/**
 * Asks a studio's file over a connection of its own, which changes nothing: what takes long holds up no one who reads. A file
 * that was cut off in the middle of a write is first as it was before it: SQLite takes back what is half.
 * @throws Error of SQLite
 */
export async function askApart(file: string, sql: string): Promise<Record<string, unknown>[]> {
	// Whoever only reads may not take anything back.
	const mode = existsSync(`${file}-journal`) ? sqlite3.OPEN_READWRITE : sqlite3.OPEN_READONLY;
	const database = await new Promise<sqlite3.Database>((done, failed) => {
		const opened = new sqlite3.Database(file, mode, (error) => (error ? failed(error) : done(opened)));
	});
	database.configure('busyTimeout', 10_000);
	try {
		return await new Promise((done, failed) =>
			database.all<Record<string, unknown>>(sql, (error, rows) => (error ? failed(error) : done(rows)))
		);
	} finally {
		await new Promise<void>((done) => database.close(() => done()));
	}
}

/** Waits until what is written of a file is on the disk. */
export function settleFile(path: string, flags = 'r+'): void {
	const handle = openSync(path, flags);
	try {
		fsyncSync(handle);
	} finally {
		closeSync(handle);
	}
}

/** The same for the names in a folder, where the system opens folders. */
export const settleFolder = (path: string): void => {
	if (process.platform !== 'win32') settleFile(path, 'r');
};

/** Copies a studio as it is at this moment. Under its own name the copy is whole and on disk, or it is not there. */
export async function copyApart(file: string, copy: string): Promise<void> {
	const making = `${copy}.part`;
	try {
		rmSync(making, { force: true });
		await askApart(file, `VACUUM INTO '${making.replaceAll("'", "''")}'`);
		settleFile(making);
		renameSync(making, copy);
		settleFolder(dirname(copy));
	} catch (error) {
		rmSync(making, { force: true });
		throw error;
	}
}
