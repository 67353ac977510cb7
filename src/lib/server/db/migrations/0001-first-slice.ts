import type { MigrationStep } from './step';

const STATEMENTS = [
	`CREATE TABLE profiles (
		id TEXT NOT NULL, revision INTEGER NOT NULL, json TEXT NOT NULL, PRIMARY KEY (id, revision)
	) WITHOUT ROWID`,
	`CREATE TABLE devices (
		id TEXT PRIMARY KEY, name TEXT NOT NULL, maker TEXT NOT NULL, model TEXT NOT NULL, kind TEXT NOT NULL, place TEXT NOT NULL,
		serial TEXT NOT NULL, firmware TEXT NOT NULL, profileId TEXT, deviceId INTEGER, channel INTEGER, ports TEXT NOT NULL,
		batteryType TEXT NOT NULL, batteryFitted TEXT NOT NULL, batteryYears REAL, forgets TEXT NOT NULL, power TEXT NOT NULL,
		notes TEXT NOT NULL, benchUnit TEXT REFERENCES bench_units(id) ON DELETE SET NULL,
		touchedAt TEXT, archivedAt TEXT, createdAt TEXT NOT NULL
	)`,
	`CREATE TABLE bench_units (
		id TEXT PRIMARY KEY, name TEXT NOT NULL, profileId TEXT NOT NULL, settings TEXT NOT NULL, firmware TEXT NOT NULL,
		memory BLOB NOT NULL, faults TEXT NOT NULL, revision INTEGER NOT NULL
	)`,
	`CREATE TABLE objects (
		hash TEXT PRIMARY KEY, size INTEGER NOT NULL, form TEXT NOT NULL CHECK (form IN ('plain', 'deflate', 'delta')),
		base TEXT REFERENCES objects(hash), data BLOB NOT NULL
	)`,
	`CREATE TABLE versions (
		seq INTEGER PRIMARY KEY AUTOINCREMENT, id TEXT NOT NULL UNIQUE, deviceId TEXT NOT NULL REFERENCES devices(id),
		profileId TEXT, profileRevision INTEGER, kind TEXT NOT NULL, firmware TEXT, takenAt TEXT NOT NULL, verified INTEGER NOT NULL,
		missing INTEGER NOT NULL, bytes INTEGER NOT NULL, slots INTEGER NOT NULL, changed INTEGER NOT NULL,
		title TEXT NOT NULL, note TEXT NOT NULL, tags TEXT NOT NULL, pinned INTEGER NOT NULL, transferId TEXT,
		FOREIGN KEY (profileId, profileRevision) REFERENCES profiles(id, revision)
	)`,
	`CREATE INDEX versions_of_device ON versions(deviceId, takenAt, seq)`,
	`CREATE TABLE version_messages (
		versionId TEXT NOT NULL REFERENCES versions(id) ON DELETE CASCADE, position INTEGER NOT NULL,
		hash TEXT NOT NULL REFERENCES objects(hash), PRIMARY KEY (versionId, position)
	) WITHOUT ROWID`,
	`CREATE INDEX messages_by_object ON version_messages(hash)`,
	// A stretch of time in which one slot held one content. Only changes make rows, so that a thousand equal
	// versions cost no more than one.
	`CREATE TABLE slot_runs (
		id INTEGER PRIMARY KEY, deviceId TEXT NOT NULL REFERENCES devices(id), area TEXT NOT NULL, slot INTEGER NOT NULL,
		label TEXT NOT NULL, name TEXT, folded TEXT NOT NULL, record TEXT NOT NULL,
		fromVersion TEXT NOT NULL REFERENCES versions(id), fromAt TEXT NOT NULL, toAt TEXT, current INTEGER NOT NULL
	)`,
	`CREATE INDEX runs_now ON slot_runs(deviceId, current)`,
	`CREATE INDEX runs_by_name ON slot_runs(folded)`,
	`CREATE TABLE transfers (
		id TEXT PRIMARY KEY, deviceId TEXT NOT NULL REFERENCES devices(id), direction TEXT NOT NULL, scope TEXT NOT NULL,
		status TEXT NOT NULL, reason TEXT, outcome TEXT, startedAt TEXT NOT NULL, endedAt TEXT, kind TEXT NOT NULL, title TEXT NOT NULL,
		versionId TEXT REFERENCES versions(id), safetyVersionId TEXT REFERENCES versions(id), sourceVersionId TEXT REFERENCES versions(id)
	)`,
	`CREATE INDEX transfers_of_device ON transfers(deviceId, startedAt)`,
	`CREATE TABLE transfer_messages (
		transferId TEXT NOT NULL REFERENCES transfers(id) ON DELETE CASCADE, position INTEGER NOT NULL,
		hash TEXT NOT NULL REFERENCES objects(hash), receivedAt TEXT NOT NULL, PRIMARY KEY (transferId, position)
	) WITHOUT ROWID`,
	`CREATE TABLE transfer_trace (
		transferId TEXT NOT NULL REFERENCES transfers(id) ON DELETE CASCADE, part INTEGER NOT NULL, lines TEXT NOT NULL,
		PRIMARY KEY (transferId, part)
	) WITHOUT ROWID`
];

export async function up({ run }: MigrationStep): Promise<void> {
	for (const statement of STATEMENTS) await run(statement);
}
