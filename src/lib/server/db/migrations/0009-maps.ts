import type { MigrationStep } from './step';

/** Maps of controllers, and the steps that were made in them. */
export async function up({ run }: MigrationStep): Promise<void> {
	await run(`CREATE TABLE maps (
		id TEXT PRIMARY KEY, document TEXT NOT NULL, revision INTEGER NOT NULL,
		createdAt TEXT NOT NULL, updatedAt TEXT NOT NULL, removedAt TEXT
	) WITHOUT ROWID`);
	await run(`CREATE TABLE map_steps (
		id INTEGER PRIMARY KEY AUTOINCREMENT, mapId TEXT NOT NULL, at TEXT NOT NULL, says TEXT NOT NULL,
		edits TEXT NOT NULL, undo TEXT NOT NULL, undone INTEGER NOT NULL DEFAULT 0
	)`);
	await run('CREATE INDEX map_steps_by_map ON map_steps (mapId, id)');
}
