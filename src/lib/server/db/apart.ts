import { closeSync, fsyncSync, openSync, renameSync, rmSync } from 'node:fs';
import sqlite3 from 'sqlite3';

/**
 * Asks a studio's file over a connection of its own, which changes nothing: what takes long holds up no one who reads.
 * @throws Error of SQLite
 */
export async function askApart(file: string, sql: string): Promise<Record<string, unknown>[]> {
	const database = await new Promise<sqlite3.Database>((done, failed) => {
		const opened = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) =>
			error ? failed(error) : done(opened)
		);
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

/** Copies a studio as it is at this moment. Under its own name the copy is whole and on disk, or it is not there. */
export async function copyApart(file: string, copy: string): Promise<void> {
	const making = `${copy}.part`;
	try {
		rmSync(making, { force: true });
		await askApart(file, `VACUUM INTO '${making.replaceAll("'", "''")}'`);
		const handle = openSync(making, 'r+');
		fsyncSync(handle);
		closeSync(handle);
		renameSync(making, copy);
	} catch (error) {
		rmSync(making, { force: true });
		throw error;
	}
}
