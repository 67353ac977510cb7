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
 * Makes a whole copy that stands beside it the studio: the newest, or the one that is named. What was the studio is kept
 * under another name. Broken off at any point, there is a studio: the one before, or the copy.
 * @param name of a copy; its path, or its name without the folder
 * @throws Problem `studio.no-copy`, `studio.taken`
 */
export async function putBack(file: string, now: Date, name?: string): Promise<PutBack> {
	const giveBack = await haveAlone(file, `process ${process.pid}, which puts a copy back`);
	try {
		const copies = await copiesOf(file);
		const chosen: Copy | undefined = name ? copies.find((copy) => copy.file.endsWith(name)) : copies[0];
		if (!chosen)
			throw new Problem(
				'studio.no-copy',
				copies.length === 0
					? 'No whole copy stands beside this studio.'
					: `No whole copy is called “${name}”. There are: ${copies.map((copy) => copy.file).join(', ')}.`,
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
