import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Transaction } from 'sequelize';
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

/** The newest revision of a profile. @throws Problem `profile.not-found` */
export function currentProfile(id: string): Profile {
	const profile = shippedProfiles().find((candidate) => candidate.id === id);
	if (!profile)
		throw new Problem(
			'profile.not-found',
			`There is no profile “${id}”.`,
			`There are: ${shippedProfiles()
				.map((p) => p.id)
				.join(', ')}.`
		);
	return profile;
}

const revisions = new Map<string, Profile>();

/** The revision that read a stored dump: kept with the studio, even when the app ships a newer one. */
export async function profileRevision(studio: Studio, id: string, revision: number): Promise<Profile> {
	const key = `${studio.file}:${id}:${revision}`;
	let profile = revisions.get(key);
	if (!profile) {
		const row = await studio.models.profiles.findOne({ where: { id, revision }, raw: true });
		if (!row)
			throw new Problem(
				'profile.not-found',
				`Revision ${revision} of the profile “${id}” is not in this studio.`,
				'Run “check” on this studio.'
			);
		profile = parseProfile(JSON.parse((row as unknown as { json: string }).json));
		revisions.set(key, profile);
	}
	return profile;
}

/** Keeps a revision with the studio, so that what it reads can always be read again. */
export async function keepRevision(
	studio: Studio,
	profile: Profile,
	transaction: Transaction
): Promise<void> {
	const { id, revision } = profile;
	const known = await studio.models.profiles.findOne({
		where: { id, revision },
		attributes: ['id'],
		transaction,
		raw: true
	});
	if (!known)
		await studio.models.profiles.create({ id, revision, json: JSON.stringify(profile) }, { transaction });
}
