import type { MigrationStep } from './step';

/** Files are kept with devices, too; procedures of one's own; runs of procedures, and of switching the studio on and off. */
export async function up({ run }: MigrationStep): Promise<void> {
	await run('ALTER TABLE map_files RENAME TO kept_files');
	await run('ALTER TABLE kept_files RENAME COLUMN mapId TO owner');
	await run('DROP INDEX map_files_by_map');
	await run('CREATE INDEX kept_files_by_owner ON kept_files (owner, name, at)');
	await run(`CREATE TABLE procedures (
		id TEXT PRIMARY KEY, document TEXT NOT NULL, updatedAt TEXT NOT NULL, removedAt TEXT
	) WITHOUT ROWID`);
	await run(`CREATE TABLE care_runs (
		id TEXT PRIMARY KEY, kind TEXT NOT NULL, title TEXT NOT NULL, deviceId TEXT, world TEXT NOT NULL,
		begunAt TEXT NOT NULL, endedAt TEXT, over TEXT, revision INTEGER NOT NULL, document TEXT NOT NULL
	) WITHOUT ROWID`);
	await run('CREATE INDEX care_runs_by_begin ON care_runs (begunAt)');
	await run('CREATE INDEX care_runs_open ON care_runs (kind) WHERE endedAt IS NULL');
}
