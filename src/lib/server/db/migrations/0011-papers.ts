import type { MigrationStep } from './step';

/** Steps belong to whatever is edited in steps, and papers are what a studio has one of, by kind. */
export async function up({ run }: MigrationStep): Promise<void> {
	await run(`CREATE TABLE steps (
		id INTEGER PRIMARY KEY AUTOINCREMENT, owner TEXT NOT NULL, at TEXT NOT NULL, says TEXT NOT NULL,
		edits TEXT NOT NULL, undo TEXT NOT NULL, undone INTEGER NOT NULL DEFAULT 0
	)`);
	await run(`INSERT INTO steps (id, owner, at, says, edits, undo, undone)
		SELECT id, mapId, at, says, edits, undo, undone FROM map_steps`);
	await run('DROP TABLE map_steps');
	await run('CREATE INDEX steps_by_owner ON steps (owner, id)');
	await run(`CREATE TABLE papers (
		kind TEXT PRIMARY KEY, document TEXT NOT NULL, revision INTEGER NOT NULL, updatedAt TEXT NOT NULL
	) WITHOUT ROWID`);
}
