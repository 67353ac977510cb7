import { readFileSync, writeFileSync } from 'node:fs';
import sqlite3 from 'sqlite3';
import { Problem } from '../../core/problem';

/**
 * Has a studio to itself, for a server: what runs, and which page speaks of it, is known to one process alone. The lock is the
 * operating system's (an open transaction in a file beside the studio's), so it is gone with its process, however that ended.
 * Commands that read or import share the studio rightly and need no lock.
 * @param who what is told to the next one that comes
 * @returns what gives it back
 * @throws Problem `studio.taken`, with who has it; Error of the disk
 */
export async function haveAlone(file: string, who: string): Promise<() => Promise<void>> {
	const lock = `${file}.lock`;
	const holder = `${file}.holder`;
	const database = await new Promise<sqlite3.Database>((done, failed) => {
		const opened = new sqlite3.Database(lock, (error) => (error ? failed(error) : done(opened)));
	});
	const close = () => new Promise<void>((done) => database.close(() => done()));
	try {
		await new Promise<void>((done, failed) =>
			database.exec('BEGIN EXCLUSIVE', (error) => (error ? failed(error) : done()))
		);
		writeFileSync(holder, who);
	} catch (error) {
		// A lock that nobody could give back would be in its own way at the next try.
		await close();
		if (!String(error).includes('SQLITE_BUSY')) throw error;
		throw new Problem(
			'studio.taken',
			`This studio is open already: ${holderOf(holder)}.`,
			'Use that one, or stop it first. Another studio is opened with DRAWER_DATA.',
			{ file }
		);
	}
	return close;
}

function holderOf(file: string): string {
	try {
		return readFileSync(file, 'utf8');
	} catch {
		// It has the lock and has not said yet who it is.
		return 'another process has it';
	}
}
