import { QueryTypes } from 'sequelize';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { getObjects } from './db/objects';

export interface CheckReport {
	objects: number;
	versions: number;
	/** Messages of captures that are not versions yet. */
	waiting: number;
	damage: { versionId: string | null; device: string; takenAt: string | null; says: string }[];
}

/** Reads every stored message again, compares it with its hash, and looks whether every version is whole. */
export async function checkStudio(studio: Studio): Promise<CheckReport> {
	const select = { type: QueryTypes.SELECT } as const;
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
	const damage: CheckReport['damage'] = [];
	for (const version of versions) {
		const says =
			version.messages === 0
				? 'it has no messages'
				: version.last !== version.messages - 1
					? 'a message is missing'
					: version.stored !== version.bytes
						? `it holds ${version.stored ?? 0} bytes instead of ${version.bytes}`
						: null;
		if (says) damage.push({ versionId: version.id, device: version.device, takenAt: version.takenAt, says });
	}
	const users = await studio.sequelize.query<{ hash: string; id: string; device: string; takenAt: string }>(
		'SELECT m.hash, v.id, d.name AS device, v.takenAt FROM version_messages m JOIN versions v ON v.id = m.versionId JOIN devices d ON d.id = v.deviceId',
		select
	);
	const named = new Set<string>();
	for (const { hash, id, device, takenAt } of users) {
		const says = bad.get(hash);
		if (!says) continue;
		named.add(hash);
		damage.push({ versionId: id, device, takenAt, says });
	}
	for (const [hash, says] of bad)
		if (!named.has(hash)) damage.push({ versionId: null, device: '', takenAt: null, says });
	const [waiting] = await studio.sequelize.query<{ n: number }>(
		'SELECT COUNT(*) AS n FROM transfer_messages m JOIN transfers t ON t.id = m.transferId WHERE t.versionId IS NULL',
		select
	);
	return { objects: hashes.length, versions: versions.length, waiting: waiting.n, damage };
}
