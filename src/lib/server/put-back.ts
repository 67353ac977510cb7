import { chmodSync, copyFileSync, existsSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import { Problem } from '../core/problem';
import { askApart, COMPANIONS, settleFile, settleFolder } from './db/apart';
import { haveAlone } from './db/sole';
import { copiesOf, type Copy } from './db/studio-file';

export interface PutBack {
	/** The copy that the studio is now. */
	copy: string;
	madeAt: string;
	/** Where the file is now that was the studio; null where there was none. */
	aside: string | null;
}

/** What is under that name afterwards is on the disk, and can be written to: a copy may be kept so that it cannot. */
function copyWhole(from: string, to: string): void {
	copyFileSync(from, to);
	chmodSync(to, statSync(to).mode | 0o600);
	settleFile(to);
}

/**
 * Makes a copy that stands beside it the studio: the newest whose structure is sound, or the one that is named. What was the
 * studio is kept under another name, with what stood only beside it. Broken off at any point there is a studio, the one
 * before (what stood beside it may lie beside the kept one by then) or the copy.
 * @param name of a copy; its path, or its name without the folder
 * @throws Problem `studio.no-copy`, `studio.taken`; Error of the disk: then nothing changed
 */
export async function putBack(file: string, now: Date, name?: string): Promise<PutBack> {
	const giveBack = await haveAlone(file, `process ${process.pid}, which puts a copy back`);
	try {
		const others: string[] = [];
		let chosen: Copy | null = null;
		for await (const copy of copiesOf(file)) {
			if (!name || copy.file.endsWith(name)) {
				chosen = copy;
				break;
			}
			others.push(copy.file);
		}
		if (!chosen)
			throw new Problem(
				'studio.no-copy',
				others.length === 0
					? 'No whole copy stands beside this studio.'
					: `No whole copy is called “${name}”. There are: ${others.join(', ')}.`,
				'Put a copy that you made in the place of the studio’s file by hand, with the server stopped.',
				{ file }
			);
		const fresh = `${file}.putting`;
		const aside = `${file}.aside-${now.toISOString().replace(/[:.]/g, '-')}`;
		const was = existsSync(file);
		// What SQLite can take back of a write that was cut off, it does: half a studio is kept for nobody.
		if (was) await askApart(file, 'SELECT name FROM sqlite_master').catch(() => undefined);
		try {
			copyWhole(chosen.file, fresh);
			if (was) copyWhole(file, aside);
		} catch (error) {
			// Nothing took another's place: what is half goes.
			for (const half of [fresh, aside]) rmSync(half, { force: true });
			throw error;
		}
		// What was written last belongs to what was the studio.
		for (const part of COMPANIONS) if (existsSync(file + part)) renameSync(file + part, aside + part);
		renameSync(fresh, file);
		settleFolder(dirname(file));
		return { copy: chosen.file, madeAt: chosen.at.toISOString(), aside: was ? aside : null };
	} finally {
		await giveBack();
	}
}
