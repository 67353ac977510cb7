import { closeSync, existsSync, openSync, readSync, readdirSync, rmSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { Problem } from '../../core/problem';
import { askApart, COMPANIONS, settleFile } from './apart';
import { saysDamaged } from './damage';

/** What a studio's file begins with (SQLite 3 file format, section 1.3). */
const MAGIC = 'SQLite format 3\0';
/** Beside a file that is being made for the first time. */
const making = (file: string): string => `${file}.making`;

/** A studio that stands beside another one's file. */
export interface Copy {
	file: string;
	/** When it was made. */
	at: Date;
}

function beginsRight(file: string): boolean {
	const handle = openSync(file, 'r');
	try {
		const head = Buffer.alloc(MAGIC.length);
		readSync(handle, head, 0, head.length, 0);
		return head.toString('latin1') === MAGIC;
	} finally {
		closeSync(handle);
	}
}

/** Whether a copy can be taken for the studio: its structure is sound. Reads all of it. */
async function soundOf(file: string): Promise<boolean> {
	try {
		if (!beginsRight(file)) return false;
		const [row] = await askApart(file, 'PRAGMA integrity_check(1)');
		const devices = await askApart(file, `SELECT name FROM sqlite_master WHERE name = 'devices'`);
		return Object.values(row)[0] === 'ok' && devices.length > 0;
	} catch {
		// Whatever cannot be read is no copy that could be offered.
		return false;
	}
}

/**
 * Studios of sound structure that stand beside a studio's file, newest first: copies from before an update, and those of each
 * day. Each is read whole before it is given: whoever wants one asks for no more.
 */
export async function* copiesOf(file: string): AsyncGenerator<Copy> {
	const folder = dirname(file);
	const own = `${basename(file)}.`;
	if (!existsSync(folder)) return;
	const found = readdirSync(folder)
		.filter((name) => name.startsWith(`${own}before-`) || name.startsWith(`${own}copy`))
		.filter((name) => !name.endsWith('.part') && !COMPANIONS.some((part) => name.endsWith(part)))
		.map((name) => ({ file: join(folder, name), at: statSync(join(folder, name)).mtime }))
		.sort((a, b) => b.at.getTime() - a.at.getTime());
	for (const copy of found) if (await soundOf(copy.file)) yield copy;
}

/** What can be done about a studio's file that cannot be opened. */
async function remedyOf(file: string): Promise<string> {
	for await (const copy of copiesOf(file))
		return `A copy of ${copy.at.toISOString().slice(0, 16).replace('T', ' ')} UTC stands beside it, its structure sound (${basename(copy.file)}). Stop the server and type “npm run drawer -- put-back”: the copy takes its place, the damaged file is kept under another name. Then run the check.`;
	return `No whole copy stands beside it. Keep the file ${file} as it is, and put a copy that you made in its place.`;
}

/**
 * @param opened whether it was opened before that was seen: then something may have been written to it
 * @throws Problem `studio.damaged`
 */
export async function damaged(file: string, says: string, opened = false): Promise<never> {
	throw new Problem(
		'studio.damaged',
		`The studio’s file is damaged: ${says}.${opened ? '' : ' Nothing was written to it.'}`,
		await remedyOf(file),
		{ file }
	);
}

/**
 * Judges a studio's file before anything is written to it. What is not there is made; a first start that was broken off is
 * gone on with.
 * @param known names of the migrations that this version knows
 * @throws Problem `studio.damaged`, `studio.newer`
 */
export async function judgeFile(file: string, known: readonly string[]): Promise<void> {
	if (!existsSync(file)) {
		settleFile(making(file), 'w');
		return;
	}
	if (existsSync(making(file))) return;
	if (statSync(file).size === 0) await damaged(file, 'it is empty, where a studio was');
	if (!beginsRight(file)) await damaged(file, 'it does not begin as a studio does');
	let names: string[];
	try {
		// As the table has them and as its index has them.
		const [own, listed] = await Promise.all(
			['SELECT name FROM migrations NOT INDEXED', 'SELECT name FROM migrations ORDER BY name'].map(
				async (sql) => (await askApart(file, sql)).map(({ name }) => String(name)).sort()
			)
		);
		if (own.join() !== listed.join()) return damaged(file, 'its list of updates is not what was written');
		names = own;
	} catch (error) {
		if (error instanceof Error && error.message.includes('no such table'))
			return damaged(file, 'it is a database, and holds no studio');
		if (saysDamaged(error)) return damaged(file, 'its structure cannot be read');
		throw error;
	}
	const strange = names.filter((name) => !known.includes(name));
	const done = new Set(names);
	const newest = known.findLastIndex((name) => done.has(name));
	const misspelt = strange.some((name) => known.some((own) => own.slice(0, 4) === name.slice(0, 4)));
	// Updates are done in their order: one that is missing between others, or known but for a sign, is damage.
	if (newest < 0 || misspelt || known.slice(0, newest).some((name) => !done.has(name)))
		return damaged(file, 'its list of updates is not what was written');
	if (strange.length > 0)
		throw new Problem(
			'studio.newer',
			`This studio was made or opened by a newer version of Silent Drawer (it knows “${strange[0]}”). Nothing was written to it.`,
			'Update Silent Drawer, or open another studio with DRAWER_DATA.',
			{ file }
		);
}

/** It has been made whole: from here on an empty file is a damaged one. */
export const noteMade = (file: string): void => rmSync(making(file), { force: true });
