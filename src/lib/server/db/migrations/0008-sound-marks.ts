import type { MigrationStep } from './step';

/** What people say of sounds: favourites and categories, by content. */
export async function up({ run }: MigrationStep): Promise<void> {
	await run(`CREATE TABLE sound_marks (
		hash TEXT PRIMARY KEY, favourite INTEGER NOT NULL, category TEXT NOT NULL, at TEXT NOT NULL
	) WITHOUT ROWID`);
}
