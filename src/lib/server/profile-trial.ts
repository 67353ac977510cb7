import { parseProfile, type Profile } from '../core/profile';
import { trialsTogether, tryOnDump, type DrawerTrial, type ProfileTrial } from '../core/drawer';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { listVersions, openVersion, type OpenVersion } from './drawer';
import { listDevices } from './gear';
import { profileOrNull } from './profiles';

/** So many dumps of a device are tried, the newest first. */
const DUMPS = 5;

/** What says of a version that it is damaged: _Check_ says how. */
const DAMAGED = ['version.not-whole', 'object.damaged'];

/** A version, or null where it is damaged. */
async function openOrDamaged(studio: Studio, id: string): Promise<OpenVersion | null> {
	try {
		return await openVersion(studio, id);
	} catch (error) {
		if (error instanceof Problem && DAMAGED.includes(error.code)) return null;
		throw error;
	}
}

async function tryOn(
	studio: Studio,
	profile: Profile,
	device: { id: string; name: string },
	isRaw: boolean
): Promise<DrawerTrial[]> {
	const versions = (await listVersions(studio, device.id)).filter(
		({ profileId }) => (profileId === null) === isRaw
	);
	const drawers: DrawerTrial[] = [];
	for (const world of new Set(versions.map((version) => version.world))) {
		const newest = versions
			.filter((version) => version.world === world)
			.toSorted((a, b) => b.takenAt.localeCompare(a.takenAt))
			.slice(0, DUMPS);
		const kept: OpenVersion[] = [];
		for (const { id } of newest) {
			const open = await openOrDamaged(studio, id);
			if (open) kept.push(open);
		}
		const together = trialsTogether(kept.map((open) => tryOnDump(profile, open)));
		drawers.push({
			...together,
			// Of dumps that are read, all of which are damaged, nothing is read now; they are not raw.
			readNow: isRaw ? null : (together.readNow ?? 0),
			device,
			world,
			firmware: kept.find(({ version }) => version.firmware !== null)?.version.firmware ?? null,
			damaged: newest.length - kept.length
		});
	}
	return drawers;
}

/**
 * Tries a profile that is not saved yet on the newest dumps of the studio: what it reads of them, what it builds again, and
 * what would be read otherwise than now. Nothing is changed.
 * @throws Problem `profile.invalid` with each faulty part
 */
export async function tryOnStudio(studio: Studio, json: unknown): Promise<ProfileTrial> {
	const profile = parseProfile(json);
	const drawers: DrawerTrial[] = [];
	for (const { id, name, profileId } of await listDevices(studio)) {
		if (profileId !== null && profileId !== profile.id) continue;
		const trials = await tryOn(studio, profile, { id, name }, profileId === null);
		// Of what is kept raw only what it reads concerns it.
		drawers.push(...(profileId === null ? trials.filter(({ read }) => read > 0) : trials));
	}
	const { dumps, messages, read, rebuilt } = trialsTogether(drawers);
	const firmware = [...new Set(drawers.flatMap((trial) => trial.firmware ?? []))].sort();
	return {
		revision: profileOrNull(studio, profile.id)?.revision ?? null,
		drawers,
		report:
			dumps === 0
				? null
				: {
						at: studio.now().toISOString().slice(0, 10),
						firmware,
						bench: drawers.every(({ world }) => world === 'bench'),
						dumps,
						messages,
						read,
						rebuilt
					}
	};
}
