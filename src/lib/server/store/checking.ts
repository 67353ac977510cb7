import type { Studio } from '../db/connection';
import { isTorn, tornFile } from '../db/damage';
import { deviceNames } from './devices';
import { hasHash, hashText } from './hashes';
import { all, one, run, toTime } from './sql';
import { told } from './words';

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
	const counts = await one<{ objects: number; records: number; versions: number; waiting: number }>(
		studio,
		`SELECT (SELECT COUNT(*) FROM objects) AS objects, (SELECT COUNT(*) FROM records WHERE data IS NOT NULL) AS records,
			(SELECT COUNT(*) FROM versions) AS versions,
			(SELECT COUNT(*) FROM transfer_messages m JOIN transfers t ON t.seq = m.transfer WHERE t.version IS NULL) AS waiting`
	);
	return counts!;
}

/** The names of stored messages, a part at a time: what builds on one another is together. */
export async function* objectHashes(studio: Studio, size = 100): AsyncGenerator<string[]> {
	let after = 0;
	for (;;) {
		const rows = await all<{ id: number; hash: Buffer }>(
			studio,
			'SELECT id, hash FROM objects WHERE id > ? ORDER BY id LIMIT ?',
			[after, size]
		);
		if (rows.length === 0) return;
		// One without a name is nobody's: it is not there, and so it is said.
		yield rows.map(({ hash }) => (hash instanceof Uint8Array ? hashText(hash) : ''));
		after = rows.at(-1)!.id;
	}
}

/** Where a version lies in the file, and its name. */
interface Place {
	seq: number;
	id: string;
}

/** Versions with what they are made of, oldest first, a part at a time; one that the file does not give is named alone. */
export async function* versionsToCheck(
	studio: Studio,
	size = 50
): AsyncGenerator<(CheckedVersion | { torn: Place })[]> {
	const devices = await deviceNames(studio);
	const places = (await all<Place>(studio, 'SELECT seq, id FROM versions ORDER BY id')).sort(
		(a, b) => a.seq - b.seq
	);
	for (let i = 0; i < places.length; i += size) {
		const part = places.slice(i, i + size);
		try {
			yield await readVersions(studio, part, devices);
		} catch (error) {
			if (!isTorn(error)) throw error;
			for (const place of part)
				yield await readVersions(studio, [place], devices).catch((alone: unknown) => {
					if (!isTorn(alone)) throw alone;
					return [{ torn: place }];
				});
		}
	}
}

async function readVersions(
	studio: Studio,
	places: readonly Place[],
	devices: Awaited<ReturnType<typeof deviceNames>>
): Promise<CheckedVersion[]> {
	const seqs = JSON.stringify(places.map(({ seq }) => seq));
	const rows = await all<{
		seq: number;
		id: string;
		device: number;
		takenAt: number;
		profile: number | null;
		revision: number | null;
		slots: number;
		bytes: number;
	}>(
		studio,
		`SELECT v.seq, v.id, v.device, v.takenAt, v.profile, v.revision, v.slots, v.bytes
		 FROM json_each(?) j CROSS JOIN versions v ON v.seq = j.value ORDER BY v.seq`,
		[seqs]
	);
	// An index that knows a version which its table does not.
	if (rows.length !== places.length) throw tornFile('a version is missing');
	const messages = await all<{
		version: number;
		position: number;
		hash: Buffer | null;
		size: number | null;
	}>(
		studio,
		`SELECT m.version, m.position, o.hash, o.size FROM json_each(?) j CROSS JOIN version_messages m ON m.version = j.value
		 LEFT JOIN objects o ON o.id = m.object ORDER BY m.version, m.position`,
		[seqs]
	);
	const byVersion = new Map<number, CheckedVersion['messages']>(rows.map(({ seq }) => [seq, []]));
	for (const { version, hash, ...message } of messages)
		byVersion.get(version)?.push({ ...message, hash: hash?.toString('hex') ?? '' });
	return (await told(studio, rows, ['device', 'profile'])).map(
		({ device, profile, revision, takenAt, ...row }) => ({
			...row,
			device: devices.get(device)?.name ?? device,
			takenAt: toTime(takenAt),
			profileId: profile,
			profileRevision: revision,
			messages: byVersion.get(row.seq)!
		})
	);
}

export const quarantined = (studio: Studio): Promise<{ hash: string; says: string; foundAt: string }[]> =>
	all(studio, 'SELECT hash, says, foundAt FROM quarantine ORDER BY foundAt');

/** Copies damaged contents to the quarantine; the versions that they belong to no longer count as verified. */
export async function setAside(studio: Studio, bad: ReadonlyMap<string, string>): Promise<void> {
	const foundAt = studio.now().toISOString();
	await studio.write(async (transaction) => {
		for (const [hash, says] of bad) {
			await run(
				studio,
				`INSERT OR IGNORE INTO quarantine (hash, size, form, base, data, says, foundAt)
				 SELECT ?1, size, form, (SELECT lower(hex(b.hash)) FROM objects b WHERE b.id = o.base), data, ?2, ?3
				 FROM objects o WHERE ${hasHash('o', '?1')}`,
				[hash, says, foundAt],
				transaction
			);
			await run(
				studio,
				`UPDATE versions SET verified = 0 WHERE seq IN (
					SELECT m.version FROM objects o JOIN version_messages m ON m.object = o.id WHERE ${hasHash('o', '?1')})`,
				[hash],
				transaction
			);
		}
	});
}

/** Takes out of the quarantine what is whole again: it, or what it builds on, was stored anew. */
export async function release(studio: Studio, bad: ReadonlyMap<string, string>): Promise<void> {
	const whole = (await quarantined(studio)).filter(({ hash }) => !bad.has(hash));
	if (whole.length === 0) return;
	await studio.write(async (transaction) => {
		for (const { hash } of whole)
			await run(
				studio,
				`DELETE FROM quarantine WHERE quarantine.hash = ?1 AND EXISTS (SELECT 1 FROM objects o WHERE ${hasHash('o', '?1')})`,
				[hash],
				transaction
			);
	});
}
