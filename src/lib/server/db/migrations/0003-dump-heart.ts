import type { MigrationStep } from './step';

const STATEMENTS = [
	// Every content that a slot ever held, by itself, so that sounds are found and compared without opening dumps.
	`CREATE TABLE records (
		profileId TEXT NOT NULL, area TEXT NOT NULL, hash TEXT NOT NULL, name TEXT, folded TEXT NOT NULL, bytes BLOB NOT NULL,
		PRIMARY KEY (profileId, area, hash)
	) WITHOUT ROWID`,
	`CREATE INDEX records_by_hash ON records(hash)`,
	`CREATE INDEX runs_by_record ON slot_runs(record)`,
	// All that a search by name looks at and sorts by, so that it never reads the rows themselves.
	`DROP INDEX runs_by_name`,
	`CREATE INDEX runs_search ON slot_runs(folded, current, toAt, fromAt, name)`,
	`CREATE INDEX runs_by_version ON slot_runs(fromVersion)`,
	`ALTER TABLE profiles ADD COLUMN own INTEGER NOT NULL DEFAULT 0`,
	`ALTER TABLE profiles ADD COLUMN savedAt TEXT`,
	`ALTER TABLE devices ADD COLUMN settings TEXT`,
	`ALTER TABLE devices ADD COLUMN remindDays INTEGER`,
	`ALTER TABLE transfers ADD COLUMN wanted TEXT`,
	`ALTER TABLE transfers ADD COLUMN snapshotId TEXT`,
	`ALTER TABLE transfers ADD COLUMN predictedMs REAL`,
	`CREATE TABLE snapshots (
		id TEXT PRIMARY KEY, title TEXT NOT NULL, note TEXT NOT NULL, takenAt TEXT NOT NULL, status TEXT NOT NULL,
		predictedMs REAL NOT NULL, tookMs REAL
	) WITHOUT ROWID`,
	`CREATE TABLE snapshot_items (
		snapshotId TEXT NOT NULL REFERENCES snapshots(id) ON DELETE CASCADE, deviceId TEXT NOT NULL REFERENCES devices(id),
		position INTEGER NOT NULL, versionId TEXT REFERENCES versions(id), status TEXT NOT NULL, says TEXT NOT NULL,
		settings TEXT NOT NULL, predictedMs REAL, tookMs REAL, PRIMARY KEY (snapshotId, deviceId)
	) WITHOUT ROWID`,
	`CREATE INDEX snapshot_versions ON snapshot_items(versionId)`,
	`CREATE TABLE banks (
		id TEXT PRIMARY KEY, deviceId TEXT NOT NULL REFERENCES devices(id), baseVersionId TEXT REFERENCES versions(id),
		document TEXT NOT NULL, revision INTEGER NOT NULL, createdAt TEXT NOT NULL, updatedAt TEXT NOT NULL
	) WITHOUT ROWID`,
	`CREATE TABLE midi_ports (
		key TEXT NOT NULL, direction TEXT NOT NULL, portId TEXT NOT NULL, name TEXT NOT NULL, manufacturer TEXT NOT NULL,
		seenAt TEXT NOT NULL, PRIMARY KEY (key, direction)
	) WITHOUT ROWID`,
	`CREATE TABLE adapter_tests (
		key TEXT PRIMARY KEY, verdict TEXT NOT NULL, testedAt TEXT NOT NULL
	) WITHOUT ROWID`,
	`CREATE TABLE quarantine (
		hash TEXT PRIMARY KEY, size INTEGER NOT NULL, form TEXT NOT NULL, base TEXT, data BLOB NOT NULL, says TEXT NOT NULL,
		foundAt TEXT NOT NULL
	) WITHOUT ROWID`,
	`CREATE TABLE studio_facts (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID`
];

/** Records by themselves, snapshots, banks, ports of the computer, tests of adapters, quarantine, profiles by people. */
export async function up({ run }: MigrationStep): Promise<void> {
	for (const statement of STATEMENTS) await run(statement);
}
