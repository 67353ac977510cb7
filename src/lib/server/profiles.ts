import type { Transaction } from 'sequelize';
import { MODELS } from '../core/bench';
import { parseProfile, type Profile } from '../core/profile';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { shippedDocuments } from './shipped';
import {
	fillDigests,
	ownProfiles,
	readRevision,
	storeRevision,
	storedRevisions,
	type StoredRevision
} from './store/profiles';

let shipped: Profile[] | null = null;

/** The profiles that come with the app, read once. @throws Problem where one is faulty */
export const shippedProfiles = (): Profile[] => (shipped ??= shippedDocuments('profiles').map(parseProfile));

const notFound = (id: string, known: readonly Profile[]) =>
	new Problem(
		'profile.not-found',
		`There is no profile “${id}”.`,
		`There are: ${known.map((profile) => profile.id).join(', ')}.`
	);

/** A profile as it comes with the app. @throws Problem `profile.not-found` */
export function shippedProfile(id: string): Profile {
	const profile = shippedProfiles().find((candidate) => candidate.id === id);
	if (!profile) throw notFound(id, shippedProfiles());
	return profile;
}

let insides: Profile[] | null = null;

/**
 * What a simulated device is built to: a profile that comes with the app, or what one is inside that no profile describes.
 * @throws Problem `profile.not-found`
 */
export const benchProfile = (id: string): Profile =>
	allInsides().find((candidate) => candidate.id === id) ?? shippedProfile(id);

const allInsides = (): Profile[] => (insides ??= shippedDocuments('insides').map(parseProfile));

/** The model of the bench that is a device of this profile: of one that describes itself, what answers with its identity. */
export function benchModelOf({ id, identity: { manufacturer, family, member } }: Profile): string | null {
	if (MODELS[id]) return id;
	const same = allInsides().find(
		({ identity }) =>
			identity.manufacturer === manufacturer && identity.family === family && identity.member === member
	);
	return same?.id ?? null;
}

/** Profiles that were written in the studio, newest revision of each; read once for each studio. */
const written = new WeakMap<Studio, Map<string, Profile>>();

/** Reads the studio's own profiles. Called when it is opened, and after one was saved. */
export async function loadProfiles(studio: Studio): Promise<void> {
	await fillDigests(studio);
	written.set(studio, new Map((await ownProfiles(studio)).map((profile) => [profile.id, profile])));
}

/** Every profile: the app's, and those that were written or changed in the studio, which no shipped one hides. */
export function knownProfiles(studio: Studio): Profile[] {
	const own = new Map(written.get(studio) ?? []);
	const all = shippedProfiles().map((profile) => {
		const mine = own.get(profile.id);
		own.delete(profile.id);
		return mine ?? profile;
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

/** Whether this is the revision of a profile that people in the studio work with now. */
export const isOwnRevision = (studio: Studio, id: string, revision: number): boolean =>
	written.get(studio)?.get(id)?.revision === revision;

const revisions = new WeakMap<Studio, Map<string, Profile>>();

/**
 * The revision that read a stored dump: kept with the studio, even when the app ships a newer one.
 * @throws Problem `profile.not-found`, `profile.damaged`
 */
export async function profileRevision(studio: Studio, id: string, revision: number): Promise<Profile> {
	let mine = revisions.get(studio);
	if (!mine) revisions.set(studio, (mine = new Map()));
	const key = `${id} ${revision}`;
	let profile = mine.get(key);
	if (!profile) {
		const kept = await readRevision(studio, id, revision);
		if (kept === 'damaged')
			throw new Problem(
				'profile.damaged',
				`Revision ${revision} of the profile “${id}” is damaged in this studio.`,
				'Run “check” on this studio: one that ships with the app is taken anew.'
			);
		if (!kept)
			throw new Problem(
				'profile.not-found',
				`Revision ${revision} of the profile “${id}” is not in this studio.`,
				'Run “check” on this studio.'
			);
		mine.set(key, (profile = kept));
	}
	return profile;
}

/** Revisions of a profile that the studio keeps, newest first. */
export const listRevisions = (studio: Studio, id: string): Promise<StoredRevision[]> =>
	storedRevisions(studio, id);

const kept = new WeakMap<Studio, Map<Profile, number>>();

/**
 * Keeps a profile with the studio, so that what it reads can always be read again. Gives the number under which this
 * studio keeps it: another than its own where that number stands for another content here.
 */
export async function keepRevision(
	studio: Studio,
	profile: Profile,
	transaction: Transaction
): Promise<number> {
	let mine = kept.get(studio);
	if (!mine) kept.set(studio, (mine = new Map()));
	const known = mine.get(profile);
	if (known !== undefined) return known;
	const revision = await storeRevision(studio, profile, transaction);
	// Remembered only once it is on disk for good.
	transaction.afterCommit(() => void mine.set(profile, revision));
	return revision;
}

/**
 * Saves a profile that somebody wrote, as its next revision; dumps keep the revision that read them.
 * @throws Problem `profile.invalid` with each faulty part
 */
export async function saveProfile(studio: Studio, json: unknown): Promise<Profile> {
	const draft = parseProfile(json);
	const revision = await studio.write((transaction) =>
		storeRevision(studio, draft, transaction, {
			own: true,
			savedAt: studio.now().toISOString(),
			above: shippedProfiles().find(({ id }) => id === draft.id)?.revision ?? 0
		})
	);
	await loadProfiles(studio);
	return parseProfile({ ...draft, revision });
}
