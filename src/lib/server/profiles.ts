import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { QueryTypes, type Transaction } from 'sequelize';
import { parseProfile, type Profile } from '../core/profile';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';

/** Where the app's own files are: the repository's root. */
const home = (): string => process.env.DRAWER_HOME ?? process.cwd();

let shipped: Profile[] | null = null;

/** The profiles that come with the app, read once. @throws Problem where one is faulty */
export function shippedProfiles(): Profile[] {
	if (!shipped) {
		const folder = join(home(), 'profiles');
		shipped = readdirSync(folder)
			.filter((file) => file.endsWith('.json'))
			.sort()
			.map((file) => parseProfile(JSON.parse(readFileSync(join(folder, file), 'utf8'))));
	}
	return shipped;
}

const notFound = (id: string, known: readonly Profile[]) =>
	new Problem(
		'profile.not-found',
		`There is no profile “${id}”.`,
		`There are: ${known.map((profile) => profile.id).join(', ')}.`
	);

/** A profile as it comes with the app: the bench's devices are built to these. @throws Problem `profile.not-found` */
export function shippedProfile(id: string): Profile {
	const profile = shippedProfiles().find((candidate) => candidate.id === id);
	if (!profile) throw notFound(id, shippedProfiles());
	return profile;
}

/** Profiles that were written in the studio, newest revision of each; read once for each studio. */
const written = new WeakMap<Studio, Map<string, Profile>>();

/** Reads the studio's own profiles. Called when it is opened, and after one was saved. */
export async function loadProfiles(studio: Studio): Promise<void> {
	const rows = await studio.sequelize.query<{ json: string }>(
		'SELECT json FROM profiles WHERE own = 1 ORDER BY revision',
		{ type: QueryTypes.SELECT }
	);
	const own = new Map<string, Profile>();
	for (const { json } of rows) {
		const profile = parseProfile(JSON.parse(json));
		own.set(profile.id, profile);
	}
	written.set(studio, own);
}

/** Every profile in its newest revision: the app's, and those that were written or changed in the studio. */
export function knownProfiles(studio: Studio): Profile[] {
	const own = new Map(written.get(studio) ?? []);
	const all = shippedProfiles().map((profile) => {
		const mine = own.get(profile.id);
		own.delete(profile.id);
		return mine && mine.revision > profile.revision ? mine : profile;
	});
	return [...all, ...own.values()];
}

/** The newest revision of a profile. @throws Problem `profile.not-found` */
export function currentProfile(studio: Studio, id: string): Profile {
	const profile = knownProfiles(studio).find((candidate) => candidate.id === id);
	if (!profile) throw notFound(id, knownProfiles(studio));
	return profile;
}

/** As `currentProfile`, or null where there is none. */
export const profileOrNull = (studio: Studio, id: string | null): Profile | null =>
	knownProfiles(studio).find((profile) => profile.id === id) ?? null;

/** Whether a profile was written or changed in the studio. */
export const isOwnProfile = (studio: Studio, id: string): boolean => written.get(studio)?.has(id) ?? false;

const revisions = new WeakMap<Studio, Map<string, Profile>>();

/** The revision that read a stored dump: kept with the studio, even when the app ships a newer one. */
export async function profileRevision(studio: Studio, id: string, revision: number): Promise<Profile> {
	let mine = revisions.get(studio);
	if (!mine) revisions.set(studio, (mine = new Map()));
	const key = `${id} ${revision}`;
	let profile = mine.get(key);
	if (!profile) {
		const row = await studio.models.profiles.findOne({ where: { id, revision }, raw: true });
		if (!row)
			throw new Problem(
				'profile.not-found',
				`Revision ${revision} of the profile “${id}” is not in this studio.`,
				'Run “check” on this studio.'
			);
		profile = parseProfile(JSON.parse((row as unknown as { json: string }).json));
		mine.set(key, profile);
	}
	return profile;
}

/** Revisions of a profile that the studio keeps, newest first. */
export async function listRevisions(
	studio: Studio,
	id: string
): Promise<{ revision: number; own: boolean; savedAt: string | null; versions: number }[]> {
	const rows = await studio.sequelize.query<{
		revision: number;
		own: number;
		savedAt: string | null;
		versions: number;
	}>(
		`SELECT p.revision, p.own, p.savedAt,
			(SELECT COUNT(*) FROM versions v WHERE v.profileId = p.id AND v.profileRevision = p.revision) AS versions
		 FROM profiles p WHERE p.id = :id ORDER BY p.revision DESC`,
		{ replacements: { id }, type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({ ...row, own: row.own === 1 }));
}

/** Keeps a revision with the studio, so that what it reads can always be read again. */
export async function keepRevision(
	studio: Studio,
	profile: Profile,
	transaction: Transaction
): Promise<void> {
	const { id, revision } = profile;
	await studio.sequelize.query('INSERT OR IGNORE INTO profiles (id, revision, json) VALUES (?, ?, ?)', {
		replacements: [id, revision, JSON.stringify(profile)],
		transaction
	});
}

/**
 * Saves a profile that somebody wrote, as its next revision; dumps keep the revision that read them.
 * @throws Problem `profile.invalid` with each faulty part
 */
export async function saveProfile(studio: Studio, json: unknown): Promise<Profile> {
	const draft = parseProfile(json);
	const profile = await studio.write(async (transaction) => {
		const [{ newest }] = await studio.sequelize.query<{ newest: number | null }>(
			'SELECT MAX(revision) AS newest FROM profiles WHERE id = :id',
			{ replacements: { id: draft.id }, type: QueryTypes.SELECT, transaction }
		);
		const shippedRevision = shippedProfiles().find(({ id }) => id === draft.id)?.revision ?? 0;
		const revision = Math.max(newest ?? 0, shippedRevision) + 1;
		const saved = parseProfile({ ...draft, revision });
		await studio.sequelize.query(
			'INSERT INTO profiles (id, revision, json, own, savedAt) VALUES (?, ?, ?, 1, ?)',
			{
				replacements: [saved.id, revision, JSON.stringify(saved), studio.now().toISOString()],
				transaction
			}
		);
		return saved;
	});
	await loadProfiles(studio);
	return profile;
}
