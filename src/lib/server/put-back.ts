import { copyFileSync, existsSync, renameSync } from 'node:fs';
import { Problem } from '../core/problem';
import { haveAlone } from './db/sole';
import { copiesOf, type Copy } from './db/studio-file';

export interface PutBack {
	/** The copy that the studio is now. */
	copy: string;
	madeAt: string;
	/** Where the file is now that was the studio; null where there was none. */
	aside: string | null;
}

/**
 * Makes a copy that stands beside it the studio: the newest whose structure is sound, or the one that is named. What was the
 * studio is kept under another name, with what stood only in its log. Broken off at any point there is a studio, the one
 * before (its log may lie beside the kept one by then) or the copy.
 * @param name of a copy; its path, or its name without the folder
 * @throws Problem `studio.no-copy`, `studio.taken`
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
		copyFileSync(chosen.file, fresh);
		const aside = `${file}.aside-${now.toISOString().replace(/[:.]/g, '-')}`;
		const was = existsSync(file);
		// What was written last belongs to what was the studio.
		if (was) copyFileSync(file, aside);
		for (const part of ['-wal', '-shm']) if (existsSync(file + part)) renameSync(file + part, aside + part);
		renameSync(fresh, file);
		return { copy: chosen.file, madeAt: chosen.at.toISOString(), aside: was ? aside : null };
	} finally {
		await giveBack();
	}
}
