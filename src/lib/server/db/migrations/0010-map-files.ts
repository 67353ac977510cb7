import type { MigrationStep } from './step';

/** When each page of a map was last written into a controller, and the files that a host or an editor keeps for a map. */
export async function up({ run }: MigrationStep): Promise<void> {
	await run(`ALTER TABLE maps ADD COLUMN sent TEXT NOT NULL DEFAULT '[]'`);
	await run(`CREATE TABLE map_files (
		id TEXT PRIMARY KEY, mapId TEXT NOT NULL, name TEXT NOT NULL, at TEXT NOT NULL, note TEXT NOT NULL,
		hash BLOB NOT NULL, size INTEGER NOT NULL, bytes BLOB NOT NULL, removedAt TEXT
	)`);
	await run('CREATE INDEX map_files_by_map ON map_files (mapId, name, at)');
}
