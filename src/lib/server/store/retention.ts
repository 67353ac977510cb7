import { QueryTypes, type Transaction } from 'sequelize';
import type { Span, VersionKind, World } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { readCoverage } from './versions';

/** A version as far as rules judge it. */
export interface JudgedRow {
	id: string;
	deviceId: string;
	device: string;
	kind: VersionKind;
	takenAt: string;
	world: World;
	verified: boolean;
	coverage: Span[];
	pinned: boolean;
	bytes: number;
	title: string;
	/** Let go by hand. */
	gone: boolean;
}

/** All versions, newest first. */
export async function versionsToJudge(studio: Studio): Promise<JudgedRow[]> {
	const rows = await studio.sequelize.query<
		Omit<JudgedRow, 'verified' | 'pinned' | 'coverage' | 'gone'> & {
			goneAt: string | null;
			verified: number;
			pinned: number;
			coverage: string | null;
		}
	>(
		`SELECT v.id, v.deviceId, d.name AS device, v.kind, v.takenAt, v.world, v.verified, v.coverage, v.pinned, v.bytes, v.title, v.goneAt
		 FROM versions v JOIN devices d ON d.id = v.deviceId ORDER BY v.takenAt DESC, v.seq DESC`,
		{ type: QueryTypes.SELECT }
	);
	return rows.map(({ goneAt, ...row }) => ({
		...row,
		gone: goneAt !== null,
		verified: row.verified === 1,
		pinned: row.pinned === 1,
		coverage: readCoverage(row.coverage)
	}));
}

/** What still needs a version, by version: snapshots, banks, and what is known of a device now. */
export async function neededVersions(studio: Studio): Promise<Map<string, string>> {
	const rows = await studio.sequelize.query<{ id: string; why: string }>(
		`SELECT versionId AS id, 'part of a studio snapshot' AS why FROM snapshot_items WHERE versionId IS NOT NULL
		 UNION SELECT baseVersionId, 'a bank was begun from it' FROM banks WHERE baseVersionId IS NOT NULL
		 UNION SELECT id, 'it asks to be looked at' FROM versions WHERE question IS NOT NULL
		 UNION SELECT safetyVersionId, 'the safety copy of a restore that broke off' FROM transfers
			WHERE direction = 'restore' AND status IN ('running', 'unfinished', 'incomplete') AND safetyVersionId IS NOT NULL
		 UNION SELECT json_extract(s.value, '$[4]'), 'the device was last read by it' FROM knowledge k, json_each(k.known, '$.seen') s
		 UNION SELECT json_extract(s.value, '$[4]'), 'it proves what no newer version proves' FROM knowledge k, json_each(k.known, '$.proved') s`,
		{ type: QueryTypes.SELECT }
	);
	return new Map(rows.map(({ id, why }) => [id, why]));
}

/** Versions that go, and which slots each of the distinct coverages holds, in tables of their own until `work` is done. */
async function withGoing<T>(
	studio: Studio,
	ids: readonly string[],
	work: (tables: { going: string; covers: string }) => Promise<T>,
	transaction?: Transaction
): Promise<T> {
	const name = `going_${Math.trunc(studio.clock() * 1000)}_${ids.length}`;
	const [going, covers] = [`temp.${name}`, `temp.${name}_covers`];
	const run = (sql: string, replacements: unknown[] = []) =>
		studio.sequelize.query(sql, { transaction, replacements });
	await run(`CREATE TABLE ${going} (id TEXT PRIMARY KEY) WITHOUT ROWID`);
	try {
		await run(`CREATE TABLE ${covers} AS
			SELECT DISTINCT v.coverage, json_extract(s.value, '$[0]') AS area, json_extract(s.value, '$[1]') AS first,
				json_extract(s.value, '$[1]') + json_extract(s.value, '$[2]') AS past
			FROM (SELECT DISTINCT coverage FROM versions WHERE coverage IS NOT NULL) v, json_each(v.coverage) s`);
		await run(`CREATE INDEX ${covers}_by ON ${covers.slice(5)}(coverage, area)`);
		for (let i = 0; i < ids.length; i += 500) {
			const part = ids.slice(i, i + 500);
			await run(`INSERT INTO ${going} VALUES ${part.map(() => '(?)').join(',')}`, [...part]);
		}
		return await work({ going, covers });
	} finally {
		await run(`DROP TABLE IF EXISTS ${going}`);
		await run(`DROP TABLE IF EXISTS ${covers}`);
	}
}

/** Contents that no remaining version, no waiting transfer and no remaining difference needs. */
const orphan = (going: string) => `
	NOT EXISTS (SELECT 1 FROM version_messages m WHERE m.hash = o.hash AND m.versionId NOT IN (SELECT id FROM ${going}))
	AND NOT EXISTS (SELECT 1 FROM transfer_messages t JOIN transfers x ON x.id = t.transferId WHERE t.hash = o.hash AND x.versionId IS NULL)
	AND NOT EXISTS (
		SELECT 1 FROM objects d WHERE d.base = o.hash AND (
			EXISTS (SELECT 1 FROM version_messages m WHERE m.hash = d.hash AND m.versionId NOT IN (SELECT id FROM ${going}))
			OR EXISTS (SELECT 1 FROM transfer_messages t JOIN transfers x ON x.id = t.transferId WHERE t.hash = d.hash AND x.versionId IS NULL)))`;

/** The next version that remains and held the slot of stay `r` while it lasted. */
const heir = (going: string, covers: string) => `
	(SELECT v.id FROM versions v WHERE v.deviceId = r.deviceId AND v.world = r.world
	 AND v.takenAt >= r.fromAt AND (r.toAt IS NULL OR v.takenAt < r.toAt OR v.takenAt = r.fromAt)
	 AND v.id NOT IN (SELECT id FROM ${going})
	 AND EXISTS (SELECT 1 FROM ${covers} c WHERE c.coverage = v.coverage AND c.area = r.area AND r.slot >= c.first AND r.slot < c.past)
	 ORDER BY v.takenAt LIMIT 1)`;

/** Bytes that only these versions hold, and sounds whose last stay would be forgotten with them. */
export async function consequences(
	studio: Studio,
	ids: readonly string[]
): Promise<{ freedBytes: number; soundsLost: number }> {
	if (ids.length === 0) return { freedBytes: 0, soundsLost: 0 };
	return withGoing(studio, ids, async ({ going, covers }) => {
		const one = async (sql: string) => {
			const [row] = await studio.sequelize.query<{ n: number | null }>(sql, { type: QueryTypes.SELECT });
			return row.n ?? 0;
		};
		return {
			freedBytes: await one(`SELECT SUM(LENGTH(o.data)) AS n FROM objects o WHERE o.hash IN
				(SELECT m.hash FROM version_messages m WHERE m.versionId IN (SELECT id FROM ${going})
				 UNION SELECT b.base FROM objects b WHERE b.base IS NOT NULL AND b.hash IN
					(SELECT m.hash FROM version_messages m WHERE m.versionId IN (SELECT id FROM ${going}))) AND ${orphan(going)}`),
			soundsLost: await one(`SELECT COUNT(DISTINCT r.record) AS n FROM slot_runs r
				WHERE r.fromVersion IN (SELECT id FROM ${going}) AND ${heir(going, covers)} IS NULL
				AND NOT EXISTS (SELECT 1 FROM slot_runs o WHERE o.record = r.record AND o.fromVersion NOT IN (SELECT id FROM ${going}))`)
		};
	});
}

/** Lets versions go, with the logs and contents that only they needed. Gives the bytes that this freed. */
export function letGo(studio: Studio, ids: readonly string[]): Promise<number> {
	return studio.write((transaction) =>
		withGoing(
			studio,
			ids,
			async ({ going, covers }) => {
				const run = (sql: string) => studio.sequelize.query(sql, { transaction });
				const gone = `(SELECT id FROM ${going})`;
				await run(
					`UPDATE slot_runs AS r SET fromVersion = COALESCE(${heir(going, covers)}, fromVersion) WHERE fromVersion IN ${gone}`
				);
				await run(`DELETE FROM slot_runs WHERE fromVersion IN ${gone}`);
				// The logs of captures whose versions go, and what they received, go with them.
				await run(
					`DELETE FROM transfer_trace WHERE transferId IN (SELECT id FROM transfers WHERE versionId IN ${gone})`
				);
				await run(
					`DELETE FROM transfer_messages WHERE transferId IN (SELECT id FROM transfers WHERE versionId IN ${gone})`
				);
				for (const column of ['versionId', 'safetyVersionId', 'sourceVersionId'])
					await run(`UPDATE transfers SET ${column} = NULL WHERE ${column} IN ${gone}`);
				const held = `(SELECT m.hash FROM version_messages m WHERE m.versionId IN ${gone})`;
				await run(`CREATE TABLE ${going}_objects AS SELECT DISTINCT o.hash, o.base FROM objects o WHERE o.hash IN ${held}
					OR o.hash IN (SELECT b.base FROM objects b WHERE b.base IS NOT NULL AND b.hash IN ${held})`);
				await run(`DELETE FROM version_messages WHERE versionId IN ${gone}`);
				const mine = `o.hash IN (SELECT hash FROM ${going}_objects)`;
				const still = 'NOT EXISTS (SELECT 1 FROM transfer_messages t WHERE t.hash = o.hash)';
				const [{ n }] = await studio.sequelize.query<{ n: number | null }>(
					`SELECT SUM(LENGTH(o.data)) AS n FROM objects o WHERE ${mine} AND ${orphan(going)} AND ${still}`,
					{ type: QueryTypes.SELECT, transaction }
				);
				// Differences first: what they build on can go after them.
				await run(
					`DELETE FROM objects AS o WHERE o.base IS NOT NULL AND ${mine} AND ${orphan(going)} AND ${still}`
				);
				await run(`DELETE FROM objects AS o WHERE o.base IS NULL AND ${mine} AND ${orphan(going)} AND ${still}
					AND NOT EXISTS (SELECT 1 FROM objects d WHERE d.base = o.hash)`);
				await run(`DELETE FROM versions WHERE id IN ${gone}`);
				await run(`DROP TABLE ${going}_objects`);
				return n ?? 0;
			},
			transaction
		)
	);
}
