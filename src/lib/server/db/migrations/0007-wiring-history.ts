import type { MigrationStep } from './step';

const STATEMENTS = [
	`CREATE TABLE wiring_steps (
		id INTEGER PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL, says TEXT NOT NULL, changes TEXT NOT NULL, undo TEXT NOT NULL,
		undone INTEGER NOT NULL DEFAULT 0
	)`,
	`CREATE TABLE plans (
		id INTEGER PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL, title TEXT NOT NULL, rig TEXT NOT NULL, plan TEXT NOT NULL,
		tookMs REAL NOT NULL, supposed TEXT NOT NULL
	)`
];

/** The steps in which the wiring was changed, each with what undoes it; and the plans that were made for it. */
export async function up({ run }: MigrationStep): Promise<void> {
	for (const statement of STATEMENTS) await run(statement);
}
