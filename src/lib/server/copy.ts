import { createReadStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { copyApart } from './db/apart';
import type { Studio } from './db/connection';
import { localDay } from './local-time';

/**
 * A copy of the whole studio as one SQLite file, as it is at this moment, without disturbing anybody. It is made on disk
 * and goes away when it was read.
 */
export async function copyStudio(studio: Studio): Promise<{ name: string; stream: Readable; type: string }> {
	const folder = await mkdtemp(join(tmpdir(), 'silent-drawer-'));
	const file = join(folder, 'copy.sqlite');
	const remove = () => rm(folder, { recursive: true, force: true });
	try {
		await copyApart(studio.file, file);
	} catch (error) {
		await remove();
		throw error;
	}
	const stream = createReadStream(file);
	stream.once('close', () => void remove());
	return {
		name: `silent-drawer-${localDay(studio.now().getTime())}.sqlite`,
		stream,
		type: 'application/vnd.sqlite3'
	};
}
