import { QueryTypes, type Transaction } from 'sequelize';
import { Problem } from '../../core/problem';
import { parseProfile, profileDigest, type Profile } from '../../core/profile';
import type { Studio } from '../db/connection';
import { parsed } from './sql';

/** A revision of a profile that the studio keeps. */
export interface StoredRevision {
	revision: number;
	own: boolean;
	savedAt: string | null;
	versions: number;
}

/** The profiles that were written in this studio, oldest revision first. */
export async function ownProfiles(studio: Studio): Promise<Profile[]> {
	const rows = await studio.sequelize.query<Kept>(
		'SELECT json, digest FROM profiles WHERE own = 1 ORDER BY revision',
		{ type: QueryTypes.SELECT }
	);
	return rows.flatMap((row) => wholeOf(row) ?? []);
}

interface Kept {
	json: string;
	/** What it said when it was kept; null in studios from before that was noted. */
	digest: string | null;
}

/** The profile that a row holds; null where it is not what was kept. */
function wholeOf({ json, digest }: Kept): Profile | null {
	try {
		const profile = parseProfile(JSON.parse(json));
		return digest === null || profileDigest(profile) === digest ? profile : null;
	} catch (error) {
		if (error instanceof SyntaxError || error instanceof Problem) return null;
		throw error;
	}
}

/** A kept revision; `damaged` where it is not what was kept, null where there is none. */
export async function readRevision(
	studio: Studio,
	id: string,
	revision: number
): Promise<Profile | 'damaged' | null> {
	const [row] = await studio.sequelize.query<Kept>(
		'SELECT json, digest FROM profiles WHERE id = :id AND revision = :revision',
		{ replacements: { id, revision }, type: QueryTypes.SELECT }
	);
	return row ? (wholeOf(row) ?? 'damaged') : null;
}

/** Every kept revision, and whether it is what was kept. */
export async function checkedRevisions(
	studio: Studio
): Promise<{ id: string; revision: number; digest: string | null; whole: boolean }[]> {
	const rows = await studio.sequelize.query<Kept & { id: string; revision: number }>(
		'SELECT id, revision, json, digest FROM profiles ORDER BY id, revision',
		{ type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({
		id: row.id,
		revision: row.revision,
		digest: row.digest,
		whole: wholeOf(row) !== null
	}));
}

/** Writes a kept revision anew, as it was. */
export async function mendRevision(
	studio: Studio,
	profile: Profile,
	revision: number,
	transaction: Transaction
): Promise<void> {
	await studio.sequelize.query('UPDATE profiles SET json = ? WHERE id = ? AND revision = ?', {
		replacements: [JSON.stringify({ ...profile, revision }), profile.id, revision],
		transaction
	});
}

/** Revisions that the studio keeps, newest first, with how many versions each reads. */
export async function storedRevisions(studio: Studio, id: string): Promise<StoredRevision[]> {
	const rows = await studio.sequelize.query<Omit<StoredRevision, 'own'> & { own: number }>(
		`SELECT p.revision, p.own, p.savedAt,
			(SELECT COUNT(*) FROM versions v WHERE v.profile = (SELECT w.id FROM words w WHERE w.text = p.id)
				AND v.revision = p.revision) AS versions
		 FROM profiles p WHERE p.id = :id ORDER BY p.revision DESC`,
		{ replacements: { id }, type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({ ...row, own: row.own === 1 }));
}

/**
 * Keeps a profile by what it says, and gives the revision number that it has in this studio: its own where that is
 * free or already stands for the same content, else the next free one.
 */
export async function storeRevision(
	studio: Studio,
	profile: Profile,
	transaction: Transaction,
	more: { savedAt?: string; own?: boolean; above?: number } = {}
): Promise<number> {
	const { id } = profile;
	const digest = profileDigest(profile);
	const rows = await studio.sequelize.query<Kept & { revision: number }>(
		'SELECT revision, json, digest FROM profiles WHERE id = :id',
		{ replacements: { id }, type: QueryTypes.SELECT, transaction }
	);
	const same =
		rows.find((row) => row.digest === digest && row.revision === profile.revision) ??
		rows.find((row) => row.digest === digest);
	// What is there already is compared, and replaced where it is damaged.
	if (same && !wholeOf(same)) await mendRevision(studio, profile, same.revision, transaction);
	if (same && !more.own) return same.revision;
	const taken = rows.some(({ revision }) => revision === profile.revision);
	const newest = Math.max(more.above ?? 0, ...rows.map(({ revision }) => revision));
	const revision = taken || more.above !== undefined ? newest + 1 : profile.revision;
	await studio.sequelize.query(
		'INSERT INTO profiles (id, revision, json, own, savedAt, digest) VALUES (?, ?, ?, ?, ?, ?)',
		{
			replacements: [
				id,
				revision,
				JSON.stringify({ ...profile, revision }),
				more.own ? 1 : 0,
				more.savedAt ?? null,
				digest
			],
			transaction
		}
	);
	return revision;
}

/** Marks a kept revision as written by people, unless they have one of their own: theirs is never hidden. */
export async function adoptRevision(
	studio: Studio,
	id: string,
	revision: number,
	transaction: Transaction
): Promise<void> {
	await studio.sequelize.query(
		'UPDATE profiles SET own = 1 WHERE id = :id AND revision = :revision AND NOT EXISTS (SELECT 1 FROM profiles WHERE id = :id AND own = 1)',
		{ replacements: { id, revision }, transaction }
	);
}

/** Works out what profiles say that were kept before that was noted. */
export async function fillDigests(studio: Studio): Promise<void> {
	const rows = await studio.sequelize.query<{ id: string; revision: number; json: string }>(
		'SELECT id, revision, json FROM profiles WHERE digest IS NULL',
		{ type: QueryTypes.SELECT }
	);
	if (rows.length === 0) return;
	await studio.write(async (transaction) => {
		for (const { id, revision, json } of rows)
			await studio.sequelize.query('UPDATE profiles SET digest = ? WHERE id = ? AND revision = ?', {
				replacements: [profileDigest(parseProfile(parsed(json))), id, revision],
				transaction
			});
	});
}
