import type { MigrationStep } from './step';

/** Where and when each device was last heard, in each world. */
export async function up({ run }: MigrationStep): Promise<void> {
	await run(`CREATE TABLE contacts (
		deviceId TEXT NOT NULL REFERENCES devices(id) ON DELETE CASCADE, world TEXT NOT NULL, at TEXT NOT NULL, how TEXT NOT NULL,
		out TEXT, back TEXT, outName TEXT NOT NULL, inName TEXT NOT NULL, wireId INTEGER, firmware TEXT,
		PRIMARY KEY (deviceId, world)
	) WITHOUT ROWID`);
}
