import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Studio } from './db/connection';
import { localDay } from './local-time';

/** A copy of the whole studio as one SQLite file, as it is at this moment, without disturbing anybody. */
export async function copyStudio(studio: Studio): Promise<{ name: string; bytes: Uint8Array; type: string }> {
	const folder = await mkdtemp(join(tmpdir(), 'silent-drawer-'));
	const file = join(folder, 'copy.sqlite');
	try {
		await studio.sequelize.query(`VACUUM INTO '${file.replaceAll("'", "''")}'`);
		return {
			name: `silent-drawer-${localDay(studio.now().getTime())}.sqlite`,
			bytes: await readFile(file),
			type: 'application/vnd.sqlite3'
		};
	} finally {
		await rm(folder, { recursive: true, force: true });
	}
}
