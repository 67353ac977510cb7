import { QueryTypes, type Transaction } from 'sequelize';
import { z } from 'zod';
import { judgeVersions, retentionSchema, type Judged, type Retention } from '../core/drawer';
import type { VersionKind } from '../core/drawer';
import type { Studio } from './db/connection';
import { readFact, writeFact } from './studio-facts';

interface Row {
	id: string;
	deviceId: string;
	device: string;
	kind: VersionKind;
	takenAt: string;
	verified: number;
	missing: number;
	pinned: number;
	bytes: number;
	title: string;
}

export interface KeepingPreview {
	rules: Retention;
	/** Versions that would go, with why. */
	going: (Judged & { deviceId: string; device: string; takenAt: string; title: string; bytes: number })[];
	staying: number;
	/** Bytes on disk that would be free: contents that nothing else needs. */
	freedBytes: number;
	/** Sounds that are nowhere else and would be gone. */
	soundsLost: number;
}

/** The rules, and the versions that were shown as going: only these go. */
export const applyRetentionSchema = z.object({
	rules: retentionSchema,
	versions: z.array(z.string()).max(100_000)
});

export const readRetention = (studio: Studio): Promise<Retention> =>
	readFact(studio, 'retention', retentionSchema);

export async function writeRetention(studio: Studio, rules: Retention): Promise<Retention> {
	const parsed = retentionSchema.parse(rules);
	await writeFact(studio, 'retention', parsed);
	return parsed;
}

/** What still needs a version, by version. */
async function neededVersions(studio: Studio): Promise<Map<string, string>> {
	const rows = await studio.sequelize.query<{ id: string; why: string }>(
		`SELECT versionId AS id, 'part of a studio snapshot' AS why FROM snapshot_items WHERE versionId IS NOT NULL
		 UNION SELECT baseVersionId, 'a bank was begun from it' FROM banks WHERE baseVersionId IS NOT NULL`,
		{ type: QueryTypes.SELECT }
	);
	return new Map(rows.map(({ id, why }) => [id, why]));
}

/** What the rules would let go, and what that would free. Nothing is changed. */
export async function previewRetention(studio: Studio, rules: Retention): Promise<KeepingPreview> {
	const parsed = retentionSchema.parse(rules);
	const versions = await studio.sequelize.query<Row>(
		`SELECT v.id, v.deviceId, d.name AS device, v.kind, v.takenAt, v.verified, v.missing, v.pinned, v.bytes, v.title
		 FROM versions v JOIN devices d ON d.id = v.deviceId ORDER BY v.takenAt DESC, v.seq DESC`,
		{ type: QueryTypes.SELECT }
	);
	const needed = await neededVersions(studio);
	const now = studio.now().getTime();
	const byDevice = new Map<string, Row[]>();
	for (const version of versions) {
		const own = byDevice.get(version.deviceId);
		if (own) own.push(version);
		else byDevice.set(version.deviceId, [version]);
	}
	const judged = [...byDevice.values()].flatMap((list) =>
		judgeVersions(
			list.map(({ id, kind, takenAt, verified, missing, pinned }) => ({
				id,
				kind,
				takenAt,
				takenMs: Date.parse(takenAt),
				verified: verified === 1,
				missing,
				pinned: pinned === 1
			})),
			parsed,
			now,
			needed
		)
	);
	const byId = new Map(versions.map((version) => [version.id, version]));
	const going = judged
		.filter(({ keep }) => !keep)
		.map((entry) => {
			const { deviceId, device, takenAt, title, bytes } = byId.get(entry.id)!;
			return { ...entry, deviceId, device, takenAt, title, bytes };
		});
	const { freed, lost } = await consequences(
		studio,
		going.map(({ id }) => id)
	);
	return {
		rules: parsed,
		going,
		staying: versions.length - going.length,
		freedBytes: freed,
		soundsLost: lost
	};
}

/** Contents that only these versions hold, and sounds that only they still have. */
async function consequences(
	studio: Studio,
	ids: readonly string[]
): Promise<{ freed: number; lost: number }> {
	if (ids.length === 0) return { freed: 0, lost: 0 };
	return studio.write(async (transaction) => {
		await listGoing(studio, ids, transaction);
		const one = async (sql: string) => {
			const [row] = await studio.sequelize.query<{ n: number | null }>(sql, {
				type: QueryTypes.SELECT,
				transaction
			});
			return row.n ?? 0;
		};
		const freed = await one(`SELECT SUM(LENGTH(o.data)) AS n FROM objects o WHERE ${ORPHAN}`);
		const lost = await one(`SELECT COUNT(DISTINCT record) AS n FROM slot_runs r WHERE ${LOST_RUN}`);
		await studio.sequelize.query('DROP TABLE temp.going', { transaction });
		return { freed, lost };
	});
}

async function listGoing(studio: Studio, ids: readonly string[], transaction: Transaction): Promise<void> {
	await studio.sequelize.query('DROP TABLE IF EXISTS temp.going', { transaction });
	await studio.sequelize.query('CREATE TEMP TABLE going (id TEXT PRIMARY KEY)', { transaction });
	for (let i = 0; i < ids.length; i += 200) {
		const part = ids.slice(i, i + 200);
		await studio.sequelize.query(`INSERT INTO temp.going VALUES ${part.map(() => '(?)').join(',')}`, {
			replacements: part as string[],
			transaction
		});
	}
}

/** Contents that no remaining version, no waiting transfer and no remaining difference needs. */
const ORPHAN = `
	NOT EXISTS (SELECT 1 FROM version_messages m WHERE m.hash = o.hash AND m.versionId NOT IN (SELECT id FROM temp.going))
	AND NOT EXISTS (SELECT 1 FROM transfer_messages t JOIN transfers x ON x.id = t.transferId WHERE t.hash = o.hash AND x.versionId IS NULL)
	AND NOT EXISTS (
		SELECT 1 FROM objects d WHERE d.base = o.hash AND (
			EXISTS (SELECT 1 FROM version_messages m WHERE m.hash = d.hash AND m.versionId NOT IN (SELECT id FROM temp.going))
			OR EXISTS (SELECT 1 FROM transfer_messages t JOIN transfers x ON x.id = t.transferId WHERE t.hash = d.hash AND x.versionId IS NULL)))`;

/** A stay that began with a version that goes; the device no longer holds it. */
const LOST_RUN = `r.fromVersion IN (SELECT id FROM temp.going) AND r.current = 0`;

/**
 * Lets versions go that the rules judge so. Stays in slots that began with them are told of the next version that
 * remains, where there is one that still held them; the sounds themselves stay in the store of sounds, so that banks
 * and searches find them.
 * @returns how many went, and how much room that made
 */
export async function applyRetention(
	studio: Studio,
	rules: Retention,
	expected: readonly string[]
): Promise<{ gone: number; freedBytes: number }> {
	const preview = await previewRetention(studio, rules);
	// Only what was shown goes: what was taken in the meantime is judged the next time.
	const ids = preview.going.map(({ id }) => id).filter((id) => expected.includes(id));
	if (ids.length === 0) return { gone: 0, freedBytes: 0 };
	const freedBytes = await studio.write(async (transaction) => {
		await listGoing(studio, ids, transaction);
		const run = (sql: string) => studio.sequelize.query(sql, { transaction });
		await run(`UPDATE slot_runs SET fromVersion = COALESCE(
			(SELECT v.id FROM versions v WHERE v.deviceId = slot_runs.deviceId AND v.id NOT IN (SELECT id FROM temp.going)
			 AND v.takenAt >= slot_runs.fromAt AND (slot_runs.toAt IS NULL OR v.takenAt < slot_runs.toAt) AND v.kind != 'imported'
			 ORDER BY v.takenAt LIMIT 1), fromVersion)
			WHERE fromVersion IN (SELECT id FROM temp.going)`);
		await run(`DELETE FROM slot_runs WHERE fromVersion IN (SELECT id FROM temp.going)`);
		await run(
			`UPDATE transfers SET versionId = NULL, outcome = outcome WHERE versionId IN (SELECT id FROM temp.going) AND status NOT IN ('unfinished', 'incomplete')`
		);
		await run(
			`UPDATE transfers SET safetyVersionId = NULL WHERE safetyVersionId IN (SELECT id FROM temp.going)`
		);
		await run(
			`UPDATE transfers SET sourceVersionId = NULL WHERE sourceVersionId IN (SELECT id FROM temp.going)`
		);
		await run(
			`DELETE FROM transfer_messages WHERE transferId IN (SELECT id FROM transfers WHERE endedAt IS NOT NULL AND versionId IS NULL AND status = 'complete')`
		);
		await run(`DELETE FROM version_messages WHERE versionId IN (SELECT id FROM temp.going)`);
		const [{ n }] = await studio.sequelize.query<{ n: number | null }>(
			`SELECT SUM(LENGTH(o.data)) AS n FROM objects o WHERE ${ORPHAN}`,
			{ type: QueryTypes.SELECT, transaction }
		);
		// Differences first: what they build on can go after them.
		await run(
			`DELETE FROM objects AS o WHERE o.base IS NOT NULL AND ${ORPHAN} AND NOT EXISTS (SELECT 1 FROM transfer_messages t WHERE t.hash = o.hash)`
		);
		await run(`DELETE FROM objects AS o WHERE o.base IS NULL AND ${ORPHAN} AND NOT EXISTS (SELECT 1 FROM transfer_messages t WHERE t.hash = o.hash)
			AND NOT EXISTS (SELECT 1 FROM objects d WHERE d.base = o.hash)`);
		await run(`DELETE FROM versions WHERE id IN (SELECT id FROM temp.going)`);
		await run('DROP TABLE temp.going');
		return n ?? 0;
	});
	return { gone: ids.length, freedBytes };
}
