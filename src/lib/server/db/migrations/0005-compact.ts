import type { MigrationStep } from './step';

const REBUILT = [
	'transfer_trace',
	'transfer_messages',
	'version_messages',
	'slot_runs',
	'snapshot_items',
	'banks',
	'transfers',
	'records',
	'versions',
	'objects'
];

const TABLES = [
	// Texts that many rows repeat: devices, models, areas, labels, kinds, states, worlds, coverages, scopes.
	`CREATE TABLE words (id INTEGER PRIMARY KEY, text TEXT NOT NULL UNIQUE)`,
	// Names of sounds; \`folded\` is how a search sees them, where that is more than small letters.
	`CREATE TABLE names (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, folded TEXT)`,
	// Contents by SHA-256. Form: 0 as it is, 1 packed, 2 XOR packed, 3 difference, 4 difference packed. \`place\` tells how
	// far along its chain of differences it is. Numbers are never given twice: logs name messages by them.
	`CREATE TABLE objects (
		id INTEGER PRIMARY KEY AUTOINCREMENT, hash BLOB NOT NULL, size INTEGER NOT NULL, form INTEGER NOT NULL,
		base INTEGER, place INTEGER NOT NULL, data BLOB NOT NULL
	)`,
	// \`takenAt\`, \`since\`, \`goneAt\` in milliseconds since 1970; the rest by words, where it repeats.
	`CREATE TABLE versions (
		seq INTEGER PRIMARY KEY, id TEXT NOT NULL UNIQUE, device INTEGER NOT NULL, profile INTEGER, revision INTEGER,
		kind INTEGER NOT NULL, firmware INTEGER, takenAt INTEGER NOT NULL, since INTEGER, world INTEGER NOT NULL,
		proof INTEGER NOT NULL, coverage INTEGER, question TEXT, goneAt INTEGER, verified INTEGER NOT NULL,
		missing INTEGER NOT NULL, bytes INTEGER NOT NULL, slots INTEGER NOT NULL, changed INTEGER NOT NULL,
		title TEXT NOT NULL, note TEXT NOT NULL, tags TEXT, pinned INTEGER NOT NULL
	)`,
	`CREATE TABLE version_messages (
		version INTEGER NOT NULL REFERENCES versions(seq) ON DELETE CASCADE, position INTEGER NOT NULL,
		object INTEGER NOT NULL REFERENCES objects(id), readAt INTEGER, PRIMARY KEY (version, position)
	) WITHOUT ROWID`,
	// Sounds: contents of slots of one area of one model (\`kind\`), each a difference to what was in its slot before where
	// that pays. \`data\` is null until a sound of a studio from before sounds were kept is taken from its version.
	`CREATE TABLE records (
		id INTEGER PRIMARY KEY, kind INTEGER NOT NULL, hash BLOB NOT NULL, name INTEGER REFERENCES names(id),
		form INTEGER NOT NULL, base INTEGER, place INTEGER NOT NULL, data BLOB
	)`,
	`CREATE TABLE slot_runs (
		id INTEGER PRIMARY KEY, device INTEGER NOT NULL, world INTEGER NOT NULL, area INTEGER NOT NULL, slot INTEGER NOT NULL,
		label INTEGER NOT NULL, record INTEGER NOT NULL REFERENCES records(id), version INTEGER NOT NULL REFERENCES versions(seq),
		fromAt INTEGER NOT NULL, toAt INTEGER, current INTEGER NOT NULL
	)`,
	`CREATE TABLE transfers (
		seq INTEGER PRIMARY KEY, id TEXT NOT NULL UNIQUE, device INTEGER NOT NULL, direction INTEGER NOT NULL,
		scope INTEGER NOT NULL, status INTEGER NOT NULL, kind INTEGER NOT NULL, world INTEGER NOT NULL, title TEXT NOT NULL,
		startedAt INTEGER NOT NULL, tookMs INTEGER, version INTEGER, safety INTEGER, source INTEGER, received INTEGER,
		predictedMs REAL, distrusted INTEGER NOT NULL, resumed INTEGER NOT NULL, snapshotId TEXT, bankId TEXT,
		reason TEXT, outcome TEXT, wanted TEXT
	)`,
	`CREATE TABLE transfer_messages (
		transfer INTEGER NOT NULL REFERENCES transfers(seq) ON DELETE CASCADE, position INTEGER NOT NULL,
		object INTEGER NOT NULL REFERENCES objects(id), receivedAt INTEGER NOT NULL, PRIMARY KEY (transfer, position)
	) WITHOUT ROWID`,
	// \`lines\` as the app once wrote them; \`packed\` since: form 0 by itself, form 1 with the app's own dictionary.
	`CREATE TABLE transfer_trace (
		transfer INTEGER NOT NULL REFERENCES transfers(seq) ON DELETE CASCADE, part INTEGER NOT NULL, form INTEGER NOT NULL,
		lines TEXT, packed BLOB, PRIMARY KEY (transfer, part)
	) WITHOUT ROWID`,
	`CREATE TABLE snapshot_items (
		snapshotId TEXT NOT NULL REFERENCES snapshots(id) ON DELETE CASCADE, deviceId TEXT NOT NULL REFERENCES devices(id),
		position INTEGER NOT NULL, versionId TEXT REFERENCES versions(id), status TEXT NOT NULL, says TEXT NOT NULL,
		settings TEXT NOT NULL, predictedMs REAL, tookMs REAL, PRIMARY KEY (snapshotId, deviceId)
	) WITHOUT ROWID`,
	`CREATE TABLE banks (
		id TEXT PRIMARY KEY, deviceId TEXT NOT NULL REFERENCES devices(id), baseVersionId TEXT REFERENCES versions(id),
		document TEXT NOT NULL, revision INTEGER NOT NULL, createdAt TEXT NOT NULL, updatedAt TEXT NOT NULL, base TEXT
	) WITHOUT ROWID`
];

const word = (text: string) => `(SELECT w.id FROM words w WHERE w.text = ${text})`;
const ms = (time: string) => `CAST(ROUND(unixepoch(${time}, 'subsec') * 1000) AS INTEGER)`;
const blob = (hash: string) => `COALESCE(unhex(${hash}), CAST(${hash} AS BLOB))`;
const seq = (id: string) => `(SELECT x.seq FROM versions x WHERE x.id = ${id})`;
const kind = (profile: string, area: string) => `json_array(COALESCE(${profile}, ''), ${area})`;

const CONTENT = [
	`INSERT OR IGNORE INTO words (text)
		SELECT kind FROM old_versions UNION SELECT world FROM old_versions UNION SELECT proof FROM old_versions
		UNION SELECT direction FROM old_transfers UNION SELECT status FROM old_transfers UNION SELECT kind FROM old_transfers
		UNION SELECT world FROM old_transfers UNION SELECT world FROM old_slot_runs`,
	`INSERT OR IGNORE INTO words (text)
		SELECT deviceId FROM old_versions UNION SELECT deviceId FROM old_transfers UNION SELECT deviceId FROM old_slot_runs
		UNION SELECT profileId FROM old_versions WHERE profileId IS NOT NULL UNION SELECT area FROM old_slot_runs
		UNION SELECT label FROM old_slot_runs UNION SELECT firmware FROM old_versions WHERE firmware IS NOT NULL
		UNION SELECT coverage FROM old_versions WHERE coverage IS NOT NULL UNION SELECT scope FROM old_transfers
		UNION SELECT ${kind('profileId', 'area')} FROM old_records
		UNION SELECT ${kind('v.profileId', 'r.area')} FROM old_slot_runs r JOIN old_versions v ON v.id = r.fromVersion`,
	`INSERT OR IGNORE INTO names (name, folded)
		SELECT name, NULLIF(folded, lower(name)) FROM old_records WHERE name IS NOT NULL
		UNION SELECT name, NULLIF(folded, lower(name)) FROM old_slot_runs WHERE name IS NOT NULL`,
	`CREATE TABLE by_hash (id INTEGER PRIMARY KEY, hash TEXT NOT NULL UNIQUE)`,
	`INSERT INTO by_hash (hash) SELECT hash FROM old_objects ORDER BY rowid`,
	`INSERT INTO objects (id, hash, size, form, base, place, data)
		SELECT b.id, ${blob('o.hash')}, o.size, CASE o.form WHEN 'plain' THEN 0 WHEN 'deflate' THEN 1 ELSE 2 END,
			(SELECT x.id FROM by_hash x WHERE x.hash = o.base), o.base IS NOT NULL, o.data
		FROM old_objects o JOIN by_hash b ON b.hash = o.hash ORDER BY o.base IS NOT NULL`,
	`INSERT INTO versions SELECT seq, id, ${word('v.deviceId')}, ${word('v.profileId')}, profileRevision, ${word('v.kind')},
		${word('v.firmware')}, ${ms('takenAt')}, ${ms('since')}, ${word('v.world')}, ${word('v.proof')}, ${word('v.coverage')}, question,
		${ms('goneAt')}, verified, missing, bytes, slots, changed, title, note, NULLIF(tags, '[]'), pinned FROM old_versions v`,
	`INSERT INTO version_messages SELECT v.seq, m.position, b.id, ${ms('m.readAt')}
		FROM old_version_messages m JOIN versions v ON v.id = m.versionId JOIN by_hash b ON b.hash = m.hash`,
	`CREATE TABLE by_record (id INTEGER PRIMARY KEY, kind INTEGER NOT NULL, hash TEXT NOT NULL, UNIQUE (kind, hash))`,
	`INSERT INTO by_record (kind, hash) SELECT ${word(kind('k.profileId', 'k.area'))}, k.hash FROM old_records k`,
	`INSERT OR IGNORE INTO by_record (kind, hash) SELECT ${word(kind('v.profileId', 'r.area'))}, r.record
		FROM old_slot_runs r JOIN old_versions v ON v.id = r.fromVersion`,
	`INSERT INTO records (id, kind, hash, name, form, base, place, data)
		SELECT b.id, b.kind, ${blob('k.hash')}, (SELECT n.id FROM names n WHERE n.name = k.name), 0, NULL, 0, k.bytes
		FROM old_records k JOIN by_record b ON b.hash = k.hash AND b.kind = ${word(kind('k.profileId', 'k.area'))}`,
	`INSERT OR IGNORE INTO records (id, kind, hash, name, form, base, place, data)
		SELECT b.id, b.kind, ${blob('r.record')}, (SELECT n.id FROM names n WHERE n.name = r.name), 0, NULL, 0, NULL
		FROM old_slot_runs r JOIN old_versions v ON v.id = r.fromVersion
		JOIN by_record b ON b.hash = r.record AND b.kind = ${word(kind('v.profileId', 'r.area'))}`,
	`INSERT INTO slot_runs SELECT r.id, ${word('r.deviceId')}, ${word('r.world')}, ${word('r.area')}, r.slot, ${word('r.label')},
		b.id, v.seq, ${ms('r.fromAt')}, ${ms('r.toAt')}, r.current
		FROM old_slot_runs r JOIN old_versions v ON v.id = r.fromVersion
		JOIN by_record b ON b.hash = r.record AND b.kind = ${word(kind('v.profileId', 'r.area'))}`,
	`INSERT INTO transfers (id, device, direction, scope, status, kind, world, title, startedAt, tookMs, version, safety, source,
			predictedMs, distrusted, resumed, snapshotId, bankId, reason, outcome, wanted)
		SELECT id, ${word('t.deviceId')}, ${word('t.direction')}, ${word('t.scope')}, ${word('t.status')}, ${word('t.kind')},
			${word('t.world')}, title, ${ms('startedAt')}, ${ms('endedAt')} - ${ms('startedAt')}, ${seq('versionId')}, ${seq('safetyVersionId')},
			${seq('sourceVersionId')}, predictedMs, distrusted, resumed, snapshotId, bankId, reason, outcome, wanted
		FROM old_transfers t ORDER BY rowid`,
	`INSERT INTO transfer_messages SELECT t.seq, m.position, b.id, ${ms('m.receivedAt')}
		FROM old_transfer_messages m JOIN transfers t ON t.id = m.transferId JOIN by_hash b ON b.hash = m.hash`,
	`INSERT INTO transfer_trace SELECT t.seq, p.part, 0, CASE WHEN p.packed IS NULL THEN p.lines END, p.packed
		FROM old_transfer_trace p JOIN transfers t ON t.id = p.transferId`,
	`INSERT INTO snapshot_items SELECT snapshotId, deviceId, position, versionId, status, says, settings, predictedMs, tookMs
		FROM old_snapshot_items`,
	`INSERT INTO banks SELECT id, deviceId, baseVersionId, document, revision, createdAt, updatedAt, base FROM old_banks`,
	`DROP TABLE by_hash`,
	`DROP TABLE by_record`
];

const INDEXES = [
	// By the first bytes of what is as good as random anyway: an index of whole names would be longer than what it finds.
	`CREATE INDEX objects_by_hash ON objects(substr(hash, 1, 3))`,
	`CREATE INDEX versions_of_device ON versions(device, world, takenAt)`,
	`CREATE INDEX versions_gone ON versions(device, world) WHERE goneAt IS NOT NULL`,
	`CREATE INDEX versions_asking ON versions(world, takenAt) WHERE question IS NOT NULL`,
	`CREATE INDEX versions_undescribed ON versions(seq) WHERE coverage IS NULL`,
	`CREATE INDEX messages_by_object ON version_messages(object)`,
	`CREATE INDEX records_by_hash ON records(substr(hash, 1, 3))`,
	`CREATE INDEX records_by_kind ON records(kind, name)`,
	`CREATE INDEX records_to_take ON records(id) WHERE data IS NULL`,
	`CREATE INDEX runs_now ON slot_runs(device, world) WHERE current = 1`,
	`CREATE INDEX runs_of_slot ON slot_runs(device, area, slot, fromAt)`,
	`CREATE INDEX runs_by_record ON slot_runs(record)`,
	`CREATE INDEX runs_by_version ON slot_runs(version)`,
	`CREATE INDEX transfers_of_device ON transfers(device)`,
	`CREATE INDEX transfers_open ON transfers(status) WHERE version IS NULL`,
	`CREATE INDEX transfers_by_version ON transfers(version) WHERE version IS NOT NULL`,
	`CREATE INDEX received_by_object ON transfer_messages(object)`,
	`CREATE INDEX snapshot_versions ON snapshot_items(versionId)`
];

/** Everything that grows with every backup, by short numbers instead of long names. */
export async function up({ run }: MigrationStep): Promise<void> {
	for (const table of REBUILT) await run(`ALTER TABLE ${table} RENAME TO old_${table}`);
	for (const statement of [...TABLES, ...CONTENT]) await run(statement);
	for (const table of REBUILT) await run(`DROP TABLE old_${table}`);
	for (const statement of INDEXES) await run(statement);
	// Knowledge tells it since it is kept.
	await run('ALTER TABLE devices DROP COLUMN touchedAt');
}
