import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { Problem } from '../core/problem';
import { decodeDump, isMatch, matchAny } from '../core/profile';
import type { Studio } from './db/connection';
import type { ObjectRow } from './db/models';
import { getObjects } from './db/objects';
import { profileRevision } from './profiles';

export interface Damage {
	versionId: string | null;
	device: string;
	takenAt: string | null;
	says: string;
}

export interface CheckReport {
	objects: number;
	versions: number;
	/** Messages of captures that are not versions yet. */
	waiting: number;
	/** Messages that a profile read again. */
	decoded: number;
	damage: Damage[];
	/** Damaged contents that are set aside. */
	quarantined: { hash: string; says: string; foundAt: string }[];
}

const select = { type: QueryTypes.SELECT } as const;

/**
 * Reads every stored message again, compares it with its hash, decodes it by the profile revision that read it, and
 * looks whether every version is whole. With `quarantine`, damaged contents are set aside, so that nothing is built
 * on them any more; what they were stays where it can be looked at.
 */
export async function checkStudio(
	studio: Studio,
	options: { quarantine?: boolean } = {}
): Promise<CheckReport> {
	const hashes = (
		await studio.sequelize.query<{ hash: string }>('SELECT hash FROM objects ORDER BY rowid', select)
	).map(({ hash }) => hash);
	const bad = new Map<string, string>();
	for (let i = 0; i < hashes.length; i += 200) {
		const part = hashes.slice(i, i + 200);
		try {
			await getObjects(studio, part);
		} catch {
			// Which of them it was: one by one.
			for (const hash of part)
				await getObjects(studio, [hash]).catch((error: unknown) => {
					bad.set(hash, error instanceof Problem ? error.message : String(error));
				});
		}
	}
	if (options.quarantine && bad.size > 0) await setAside(studio, bad);
	const damage = [...(await unwhole(studio)), ...(await users(studio, bad))];
	const { decoded, undecoded } = await decodeAll(studio, bad);
	damage.push(...undecoded);
	const [waiting] = await studio.sequelize.query<{ n: number }>(
		'SELECT COUNT(*) AS n FROM transfer_messages m JOIN transfers t ON t.id = m.transferId WHERE t.versionId IS NULL',
		select
	);
	const [{ n: versions }] = await studio.sequelize.query<{ n: number }>(
		'SELECT COUNT(*) AS n FROM versions',
		select
	);
	return {
		objects: hashes.length,
		versions,
		waiting: waiting.n,
		decoded,
		damage,
		quarantined: await studio.sequelize.query(
			'SELECT hash, says, foundAt FROM quarantine ORDER BY foundAt',
			select
		)
	};
}

/** Copies damaged contents to the quarantine and names the versions that they belong to as not verified. */
async function setAside(studio: Studio, bad: ReadonlyMap<string, string>): Promise<void> {
	const foundAt = studio.now().toISOString();
	await studio.write(async (transaction) => {
		for (const [hash, says] of bad) {
			const [row] = await studio.sequelize.query<ObjectRow>('SELECT * FROM objects WHERE hash = :hash', {
				replacements: { hash },
				type: QueryTypes.SELECT,
				transaction
			});
			if (!row) continue;
			await studio.sequelize.query(
				'INSERT OR IGNORE INTO quarantine (hash, size, form, base, data, says, foundAt) VALUES (?, ?, ?, ?, ?, ?, ?)',
				{
					replacements: [hash, row.size, row.form, row.base, row.data, says, foundAt] as unknown[],
					transaction
				}
			);
			await studio.sequelize.query(
				'UPDATE versions SET verified = 0 WHERE id IN (SELECT versionId FROM version_messages WHERE hash = ?)',
				{ replacements: [hash], transaction }
			);
		}
	});
}

/** Versions whose messages are not all there. */
async function unwhole(studio: Studio): Promise<Damage[]> {
	const versions = await studio.sequelize.query<{
		id: string;
		device: string;
		takenAt: string;
		bytes: number;
		stored: number | null;
		messages: number;
		last: number | null;
	}>(
		`SELECT v.id, d.name AS device, v.takenAt, v.bytes, SUM(o.size) AS stored, COUNT(m.hash) AS messages, MAX(m.position) AS last
		 FROM versions v JOIN devices d ON d.id = v.deviceId LEFT JOIN version_messages m ON m.versionId = v.id LEFT JOIN objects o ON o.hash = m.hash GROUP BY v.id`,
		select
	);
	return versions.flatMap(({ id, device, takenAt, messages, last, stored, bytes }) => {
		const says =
			messages === 0
				? 'it has no messages'
				: last !== messages - 1
					? 'a message is missing'
					: stored !== bytes
						? `it holds ${stored ?? 0} bytes instead of ${bytes}`
						: null;
		return says ? [{ versionId: id, device, takenAt, says }] : [];
	});
}

/** The versions that damaged contents belong to. */
async function users(studio: Studio, bad: ReadonlyMap<string, string>): Promise<Damage[]> {
	if (bad.size === 0) return [];
	const rows = await studio.sequelize.query<{ hash: string; id: string; device: string; takenAt: string }>(
		'SELECT m.hash, v.id, d.name AS device, v.takenAt FROM version_messages m JOIN versions v ON v.id = m.versionId JOIN devices d ON d.id = v.deviceId',
		select
	);
	const named = new Set<string>();
	const damage: Damage[] = [];
	for (const { hash, id, device, takenAt } of rows) {
		const says = bad.get(hash);
		if (!says) continue;
		named.add(hash);
		damage.push({ versionId: id, device, takenAt, says });
	}
	for (const [hash, says] of bad)
		if (!named.has(hash)) damage.push({ versionId: null, device: '', takenAt: null, says });
	return damage;
}

/** Decodes every message of every version by the profile revision that it was stored with; each content once. */
async function decodeAll(
	studio: Studio,
	bad: ReadonlyMap<string, string>
): Promise<{ decoded: number; undecoded: Damage[] }> {
	const versions = await studio.sequelize.query<{
		id: string;
		device: string;
		takenAt: string;
		profileId: string;
		profileRevision: number;
		slots: number;
	}>(
		'SELECT v.id, d.name AS device, v.takenAt, v.profileId, v.profileRevision, v.slots FROM versions v JOIN devices d ON d.id = v.deviceId WHERE v.profileId IS NOT NULL',
		select
	);
	const readable = new Map<string, string | null>();
	const undecoded: Damage[] = [];
	let decoded = 0;
	for (const { id, device, takenAt, profileId, profileRevision: revision, slots } of versions) {
		const fail = (says: string) => undecoded.push({ versionId: id, device, takenAt, says });
		let profile;
		try {
			profile = await profileRevision(studio, profileId, revision);
		} catch (error) {
			fail(error instanceof Problem ? error.message : String(error));
			continue;
		}
		const hashes = (
			await studio.sequelize.query<{ hash: string }>(
				'SELECT hash FROM version_messages WHERE versionId = :id ORDER BY position',
				{ replacements: { id }, ...select }
			)
		).map(({ hash }) => hash);
		if (hashes.some((hash) => bad.has(hash))) continue;
		const key = (hash: string) => `${profileId} ${revision} ${hash}`;
		const open = hashes.filter((hash) => !readable.has(key(hash)));
		if (open.length === 0) continue;
		const messages = await getObjects(studio, hashes);
		hashes.forEach((hash, i) => {
			if (readable.has(key(hash))) return;
			decoded++;
			const match = matchAny(profile, messages[i]);
			readable.set(key(hash), isMatch(match) ? null : match.says);
		});
		const wrong = hashes.map((hash) => readable.get(key(hash))).find((says) => says);
		if (wrong) fail(`a message can no longer be decoded: ${wrong}`);
		else if (decodeDump(profile, messages).slots.length !== slots)
			fail(`it decodes to another number of slots than the ${slots} that were stored`);
	}
	return { decoded, undecoded };
}

/** Whether damaged contents are set aside. */
export const checkOrderSchema = z.object({ quarantine: z.boolean().default(false) });
