import { QueryTypes } from 'sequelize';
import type { Studio } from '../db/connection';
import type { ObjectRow } from '../db/models';

const select = { type: QueryTypes.SELECT } as const;

/** A version as far as a check looks at it. */
export interface CheckedVersion {
	seq: number;
	id: string;
	device: string;
	takenAt: string;
	profileId: string | null;
	profileRevision: number | null;
	slots: number;
	bytes: number;
	messages: { position: number; hash: string; size: number | null }[];
}

/** How much there is to check. */
export async function countStored(
	studio: Studio
): Promise<{ objects: number; records: number; versions: number; waiting: number }> {
	const [row] = await studio.sequelize.query<{
		objects: number;
		records: number;
		versions: number;
		waiting: number;
	}>(
		`SELECT (SELECT COUNT(*) FROM objects) AS objects, (SELECT COUNT(*) FROM records) AS records, (SELECT COUNT(*) FROM versions) AS versions,
			(SELECT COUNT(*) FROM transfer_messages m JOIN transfers t ON t.id = m.transferId WHERE t.versionId IS NULL) AS waiting`,
		select
	);
	return row;
}

/** The names of stored messages, a part at a time. */
export async function* objectHashes(studio: Studio, size = 200): AsyncGenerator<string[]> {
	let after = '';
	for (;;) {
		const rows = await studio.sequelize.query<{ hash: string }>(
			'SELECT hash FROM objects WHERE hash > :after ORDER BY hash LIMIT :size',
			{ replacements: { after, size }, ...select }
		);
		if (rows.length === 0) return;
		yield rows.map(({ hash }) => hash);
		after = rows.at(-1)!.hash;
	}
}

/** Versions with what they are made of, oldest first, a part at a time. */
export async function* versionsToCheck(studio: Studio, size = 50): AsyncGenerator<CheckedVersion[]> {
	let after = 0;
	for (;;) {
		const versions = await studio.sequelize.query<Omit<CheckedVersion, 'messages'>>(
			`SELECT v.seq, v.id, d.name AS device, v.takenAt, v.profileId, v.profileRevision, v.slots, v.bytes
			 FROM versions v JOIN devices d ON d.id = v.deviceId WHERE v.seq > :after ORDER BY v.seq LIMIT :size`,
			{ replacements: { after, size }, ...select }
		);
		if (versions.length === 0) return;
		const messages = await studio.sequelize.query<{
			versionId: string;
			position: number;
			hash: string;
			size: number | null;
		}>(
			`SELECT m.versionId, m.position, m.hash, o.size FROM version_messages m LEFT JOIN objects o ON o.hash = m.hash
			 WHERE m.versionId IN (:ids) ORDER BY m.versionId, m.position`,
			{ replacements: { ids: versions.map(({ id }) => id) }, ...select }
		);
		const byVersion = new Map<string, CheckedVersion['messages']>(versions.map(({ id }) => [id, []]));
		for (const { versionId, ...message } of messages) byVersion.get(versionId)!.push(message);
		yield versions.map((version) => ({ ...version, messages: byVersion.get(version.id)! }));
		after = versions.at(-1)!.seq;
	}
}

export const quarantined = (studio: Studio): Promise<{ hash: string; says: string; foundAt: string }[]> =>
	studio.sequelize.query('SELECT hash, says, foundAt FROM quarantine ORDER BY foundAt', select);

/** Copies damaged contents to the quarantine; the versions that they belong to no longer count as verified. */
export async function setAside(studio: Studio, bad: ReadonlyMap<string, string>): Promise<void> {
	const foundAt = studio.now().toISOString();
	await studio.write(async (transaction) => {
		for (const [hash, says] of bad) {
			const [row] = await studio.sequelize.query<ObjectRow>('SELECT * FROM objects WHERE hash = :hash', {
				replacements: { hash },
				...select,
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

/** Takes out of the quarantine what is whole again: it, or what it builds on, was stored anew. */
export async function release(studio: Studio, bad: ReadonlyMap<string, string>): Promise<void> {
	for (const { hash } of await quarantined(studio)) {
		if (bad.has(hash)) continue;
		await studio.sequelize.query(
			'DELETE FROM quarantine WHERE hash = :hash AND EXISTS (SELECT 1 FROM objects WHERE hash = :hash)',
			{ replacements: { hash } }
		);
	}
}
