import type { Transaction } from 'sequelize';
import type { Span, VersionKind, World } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { all, one, parsed, run } from './sql';
import { numbersOf, told } from './words';
import { readCoverage } from './versions';

/** A version as far as rules judge it. */
export interface JudgedRow {
	id: string;
	deviceId: string;
	kind: VersionKind;
	takenMs: number;
	world: World;
	verified: boolean;
	coverage: Span[];
	pinned: boolean;
	title: string;
	bytes: number;
	/** Let go by hand. */
	gone: boolean;
}

/** A version in a list that SQLite makes of a device's versions: plain numbers, told apart here. */
type Judgeable = [
	id: string,
	kind: number,
	takenAt: number,
	world: number,
	verified: number,
	coverage: number | null,
	pinned: number,
	gone: number,
	title: string,
	bytes: number
];

/** The versions of each device, newest first, a device at a time. */
export async function* versionsToJudge(studio: Studio): AsyncGenerator<JudgedRow[]> {
	const devices = await all<{ device: number }>(studio, 'SELECT DISTINCT device FROM versions');
	for (const { device: deviceId } of await told(studio, devices, ['device'])) {
		const device = (await numbersOf(studio, [deviceId]))(deviceId);
		const list = await one<{ list: string }>(
			studio,
			`SELECT json_group_array(json_array(id, kind, takenAt, world, verified, coverage, pinned, goneAt IS NOT NULL,
				title, bytes)
				ORDER BY takenAt DESC, seq DESC) AS list FROM versions WHERE device = ?`,
			[device]
		);
		const rows = (parsed(list!.list) as Judgeable[]).map(
			([id, kind, takenMs, world, verified, coverage, pinned, gone, title, bytes]) => ({
				id,
				deviceId,
				kind,
				takenMs,
				world,
				verified: verified === 1,
				coverage,
				pinned: pinned === 1,
				gone: gone === 1,
				title,
				bytes
			})
		);
		yield (await told(studio, rows, ['kind', 'world', 'coverage'])).map(
			(row) => ({ ...row, coverage: readCoverage(row.coverage) }) as JudgedRow
		);
	}
}

/** What still needs a version, by version: snapshots, banks, and what is known of a device now. */
export async function neededVersions(studio: Studio): Promise<Map<string, string>> {
	const open = ['running', 'unfinished', 'incomplete'];
	const number = await numbersOf(studio, ['restore', ...open]);
	const rows = await all<{ id: string; why: string }>(
		studio,
		`SELECT versionId AS id, 'part of a studio snapshot' AS why FROM snapshot_items WHERE versionId IS NOT NULL
		 UNION SELECT baseVersionId, 'a bank was begun from it' FROM banks WHERE baseVersionId IS NOT NULL
		 UNION SELECT id, 'it asks to be looked at' FROM versions WHERE question IS NOT NULL
		 UNION SELECT v.id, 'the safety copy of a restore that broke off' FROM transfers t JOIN versions v ON v.seq = t.safety
			WHERE t.direction = ? AND t.status IN (SELECT value FROM json_each(?))
		 UNION SELECT json_extract(s.value, '$[4]'), 'the device was last read by it' FROM knowledge k, json_each(k.known, '$.seen') s
		 UNION SELECT json_extract(s.value, '$[4]'), 'it proves what no newer version proves' FROM knowledge k, json_each(k.known, '$.proved') s`,
		[number('restore'), JSON.stringify(open.map(number))]
	);
	return new Map(rows.map(({ id, why }) => [id, why]));
}

/**
 * Versions that go; those that stay; what each coverage holds; for each that goes the next that stays; what becomes of
 * sounds; contents that nothing needs any more, and those of them that something does.
 */
const TABLES = ['going', 'staying', 'covers', 'next', 'fates', 'orphans', 'alive'] as const;

/** Previews of one studio, one after the other: their tables are those of its one connection for reading. */
const previews = new WeakMap<Studio, Promise<unknown>>();

const STEPS = [
	`CREATE TABLE temp.staying (device INTEGER, world INTEGER, takenAt INTEGER, seq INTEGER, coverage INTEGER,
		PRIMARY KEY (device, world, takenAt, seq)) WITHOUT ROWID`,
	`INSERT INTO staying SELECT device, world, takenAt, seq, coverage FROM versions
	 WHERE seq NOT IN (SELECT seq FROM going) ORDER BY device, world, takenAt, seq`,
	`CREATE TABLE temp.covers (coverage INTEGER, area INTEGER, first INTEGER, past INTEGER,
		PRIMARY KEY (coverage, area, first)) WITHOUT ROWID`,
	`INSERT INTO covers
	 SELECT v.coverage, w.id, json_extract(s.value, '$[1]'), json_extract(s.value, '$[1]') + json_extract(s.value, '$[2]')
	 FROM (SELECT DISTINCT coverage FROM staying WHERE coverage IS NOT NULL) v
	 JOIN words c ON c.id = v.coverage, json_each(c.text) s JOIN words w ON w.text = json_extract(s.value, '$[0]')`,
	`CREATE TABLE temp.next (seq INTEGER PRIMARY KEY, takenAt INTEGER, own INTEGER, at INTEGER, heir INTEGER, coverage INTEGER)`,
	`INSERT INTO next SELECT v.seq, v.takenAt, v.coverage, s.takenAt, s.seq, s.coverage
	 FROM going g CROSS JOIN versions v ON v.seq = g.seq LEFT JOIN staying s ON s.device = v.device AND s.world = v.world
		AND s.takenAt = (SELECT MIN(x.takenAt) FROM staying x WHERE x.device = v.device AND x.world = v.world AND x.takenAt >= v.takenAt)
	 GROUP BY v.seq`,
	`CREATE TABLE temp.orphans (id INTEGER PRIMARY KEY)`,
	// What the versions that go are made of, with all that it builds on, as far as nothing else holds it …
	`WITH RECURSIVE held(id) AS (
		SELECT m.object FROM going g CROSS JOIN version_messages m ON m.version = g.seq
		UNION SELECT o.base FROM held h JOIN objects o ON o.id = h.id WHERE o.base IS NOT NULL)
	 INSERT INTO orphans SELECT h.id FROM held h
	 WHERE NOT EXISTS (SELECT 1 FROM version_messages m WHERE m.object = h.id AND m.version NOT IN (SELECT seq FROM going))
	 AND NOT EXISTS (SELECT 1 FROM transfer_messages t JOIN transfers x ON x.seq = t.transfer WHERE t.object = h.id
		AND (x.version IS NULL OR x.version NOT IN (SELECT seq FROM going)))`,
	// … and nothing that stays builds on it.
	`CREATE TABLE temp.alive (id INTEGER PRIMARY KEY)`,
	`WITH RECURSIVE kept(id) AS (
		SELECT DISTINCT o.base FROM objects o
			WHERE o.base IN (SELECT id FROM orphans) AND o.id NOT IN (SELECT id FROM orphans)
		UNION SELECT o.base FROM kept a JOIN objects o ON o.id = a.id WHERE o.base IN (SELECT id FROM orphans))
	 INSERT INTO alive SELECT id FROM kept`,
	`DELETE FROM orphans WHERE id IN (SELECT id FROM alive)`
];

/** Works with tables of what goes and what stays, which are there only that long. */
async function withGoing<T>(
	studio: Studio,
	ids: readonly string[],
	work: () => Promise<T>,
	transaction?: Transaction
): Promise<T> {
	const step = (sql: string, values: string[] = []) => run(studio, sql, values, transaction);
	const drop = async () => {
		for (const table of TABLES) await step(`DROP TABLE IF EXISTS temp.${table}`);
	};
	await drop();
	try {
		await step('CREATE TABLE temp.going (seq INTEGER PRIMARY KEY)');
		await step('INSERT INTO going SELECT v.seq FROM json_each(?) j CROSS JOIN versions v ON v.id = j.value', [
			JSON.stringify(ids)
		]);
		for (const sql of STEPS) await step(sql);
		return await work();
	} finally {
		await drop();
	}
}

/** The next version that stays and held the slot of stay `r` while it lasted. */
const HEIR = `(SELECT s.seq FROM staying s WHERE s.device = r.device AND s.world = r.world
	AND s.takenAt >= r.fromAt AND (r.toAt IS NULL OR s.takenAt < r.toAt OR s.takenAt = r.fromAt)
	AND EXISTS (SELECT 1 FROM covers c WHERE c.coverage = s.coverage AND c.area = r.area AND r.slot >= c.first AND r.slot < c.past)
	ORDER BY s.takenAt LIMIT 1)`;
/** The same where it is plain: the next version that stays (`x`) holds all that the one did in which the stay began. */
const PLAIN_HEIR = `CASE
	WHEN r.fromAt <> x.takenAt THEN ${HEIR}
	WHEN x.at IS NULL THEN NULL
	WHEN x.coverage IS NOT x.own THEN ${HEIR}
	WHEN r.toAt IS NULL OR x.at < r.toAt OR x.at = r.fromAt THEN x.heir END`;

const FREED = 'SELECT SUM(LENGTH(o.data)) AS n FROM orphans b JOIN objects o ON o.id = b.id';

/** Bytes that only these versions hold, and sounds whose last stay would be forgotten with them. */
export function consequences(
	studio: Studio,
	ids: readonly string[]
): Promise<{ freedBytes: number; soundsLost: number }> {
	if (ids.length === 0) return Promise.resolve({ freedBytes: 0, soundsLost: 0 });
	const count = async (sql: string) => (await one<{ n: number | null }>(studio, sql))?.n ?? 0;
	const mine = (previews.get(studio) ?? Promise.resolve()).then(() =>
		withGoing(studio, ids, async () => {
			// One look at every stay: whether any of a sound's is told of by a version that stays.
			await run(studio, 'CREATE TABLE temp.fates (record INTEGER PRIMARY KEY, told INTEGER)');
			await run(
				studio,
				`INSERT INTO fates SELECT r.record, x.seq IS NULL OR ${PLAIN_HEIR} IS NOT NULL
				 FROM slot_runs r LEFT JOIN next x ON x.seq = r.version WHERE true
				 ON CONFLICT (record) DO UPDATE SET told = 1 WHERE excluded.told`
			);
			return {
				freedBytes: await count(FREED),
				soundsLost: await count('SELECT COUNT(*) AS n FROM fates WHERE told = 0')
			};
		})
	);
	previews.set(
		studio,
		mine.catch(() => undefined)
	);
	return mine;
}

/** Lets versions go, with the logs and contents that only they needed. Gives the bytes that this freed. */
export function letGo(studio: Studio, ids: readonly string[]): Promise<number> {
	return studio.write((transaction) =>
		withGoing(
			studio,
			ids,
			async () => {
				const step = (sql: string) => run(studio, sql, [], transaction);
				const gone = '(SELECT seq FROM going)';
				const freed = await one<{ n: number | null }>(studio, FREED, [], transaction);
				await step(
					`UPDATE slot_runs AS r SET version = COALESCE(${PLAIN_HEIR}, r.version) FROM next x WHERE x.seq = r.version`
				);
				await step(`DELETE FROM slot_runs WHERE version IN ${gone}`);
				// The logs of captures whose versions go, and what they received, go with them.
				for (const table of ['transfer_trace', 'transfer_messages'])
					await step(
						`DELETE FROM ${table} WHERE transfer IN (SELECT seq FROM transfers WHERE version IN ${gone})`
					);
				for (const column of ['version', 'safety', 'source'])
					await step(`UPDATE transfers SET ${column} = NULL WHERE ${column} IN ${gone}`);
				await step(`DELETE FROM version_messages WHERE version IN ${gone}`);
				await step(`DELETE FROM objects WHERE id IN (SELECT id FROM orphans)`);
				await step(`DELETE FROM versions WHERE seq IN ${gone}`);
				return freed?.n ?? 0;
			},
			transaction
		)
	);
}
