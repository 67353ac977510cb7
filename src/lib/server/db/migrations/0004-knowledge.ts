import type { MigrationStep } from './step';

const STATEMENTS = [
	// What is known of a device in each world; contents last seen are in its current stays.
	`CREATE TABLE knowledge (
		deviceId TEXT NOT NULL REFERENCES devices(id), world TEXT NOT NULL, known TEXT NOT NULL, PRIMARY KEY (deviceId, world)
	) WITHOUT ROWID`,
	`ALTER TABLE versions ADD COLUMN world TEXT NOT NULL DEFAULT 'unrecorded'`,
	`ALTER TABLE versions ADD COLUMN proof TEXT NOT NULL DEFAULT 'none'`,
	`ALTER TABLE versions ADD COLUMN since TEXT`,
	// Null until it has been worked out, for versions that were stored before coverage was noted.
	`ALTER TABLE versions ADD COLUMN coverage TEXT`,
	`ALTER TABLE versions ADD COLUMN question TEXT`,
	// Let go by hand: no longer shown, and its contents go with the next tidying.
	`ALTER TABLE versions ADD COLUMN goneAt TEXT`,
	`ALTER TABLE version_messages ADD COLUMN readAt TEXT`,
	`ALTER TABLE slot_runs ADD COLUMN world TEXT NOT NULL DEFAULT 'unrecorded'`,
	`ALTER TABLE transfers ADD COLUMN world TEXT NOT NULL DEFAULT 'unrecorded'`,
	`ALTER TABLE transfers ADD COLUMN distrusted INTEGER NOT NULL DEFAULT 0`,
	`ALTER TABLE transfers ADD COLUMN resumed INTEGER NOT NULL DEFAULT 0`,
	`ALTER TABLE transfers ADD COLUMN bankId TEXT`,
	`ALTER TABLE transfer_trace ADD COLUMN packed BLOB`,
	`ALTER TABLE snapshots ADD COLUMN world TEXT NOT NULL DEFAULT 'unrecorded'`,
	`ALTER TABLE banks ADD COLUMN base TEXT`,
	// A profile is what it says: the same revision number can be given twice, in two studios.
	`ALTER TABLE profiles ADD COLUMN digest TEXT`,
	`UPDATE versions SET world = 'file' WHERE kind = 'imported'`,
	`UPDATE versions SET proof = CASE WHEN kind = 'after restore' THEN 'read back' ELSE 'checksum' END WHERE verified = 1`,
	`UPDATE slot_runs SET world = COALESCE((SELECT world FROM versions v WHERE v.id = slot_runs.fromVersion), 'unrecorded')`,
	`UPDATE transfers SET distrusted = 1 WHERE id IN (SELECT transferId FROM transfer_trace WHERE lines LIKE '%Damaged message%')`,
	`INSERT INTO knowledge SELECT id, 'hardware', '{"seen":[],"proved":[],"unread":[],"touchedAt":"' || touchedAt || '"}' FROM devices WHERE touchedAt IS NOT NULL`,
	`DROP INDEX runs_now`,
	`CREATE INDEX runs_now ON slot_runs(deviceId, world, current)`,
	`CREATE INDEX objects_by_base ON objects(base) WHERE base IS NOT NULL`,
	`CREATE INDEX received_by_object ON transfer_messages(hash)`,
	`CREATE INDEX versions_by_transfer ON versions(transferId) WHERE transferId IS NOT NULL`,
	`CREATE INDEX versions_by_world ON versions(deviceId, world)`,
	`CREATE INDEX versions_asking ON versions(world, takenAt) WHERE question IS NOT NULL`,
	`CREATE INDEX versions_undescribed ON versions(seq) WHERE coverage IS NULL`,
	`CREATE INDEX transfers_open ON transfers(status, direction) WHERE versionId IS NULL`
];

/** What is known, by world; where every version came from and how it was proved; profiles by what they say. */
export async function up({ run }: MigrationStep): Promise<void> {
	for (const statement of STATEMENTS) await run(statement);
}
