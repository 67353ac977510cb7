import { recordChange, type Alike } from '../core/drawer';
import { areaOf, readValue, type ProfileParameter } from '../core/profile';
import type { Studio } from './db/connection';
import { letOthersIn } from './in-steps';
import { currentProfile } from './profiles';
import { keptRecord, recordsOf } from './store/records';
import { placesOfSounds } from './store/sightings';

/** Sounds that differ in more parameters than these are no look-alikes. */
const PARAMETERS = 6;
const SHOWN = 8;

/** In how many parameters two records differ; counting stops past the limit. */
function differing(parameters: readonly ProfileParameter[], a: Uint8Array, b: Uint8Array): number {
	let count = 0;
	for (const parameter of parameters)
		if (readValue(parameter, a) !== readValue(parameter, b) && ++count > PARAMETERS) break;
	return count;
}

/**
 * The sounds of all drawers that are most like one, in at most six parameters other than it, the nearest first.
 * @throws Problem `sound.not-found`
 */
export async function alikeTo(studio: Studio, hash: string): Promise<Alike[]> {
	const sound = await keptRecord(studio, hash);
	const { profileId, area, bytes } = sound;
	const profile = currentProfile(studio, profileId);
	const { parameters } = profile.records[areaOf(profile, area).record];
	if (parameters.length === 0) return [];
	let near: { hash: string; name: string | null; bytes: Uint8Array; count: number }[] = [];
	for await (const part of recordsOf(studio, profileId, area)) {
		for (const each of part) {
			if (each.hash === hash || each.bytes.length !== bytes.length) continue;
			const count = differing(parameters, bytes, each.bytes);
			if (count <= PARAMETERS) near.push({ ...each, count });
		}
		near = near.sort((a, b) => a.count - b.count).slice(0, SHOWN);
		await letOthersIn();
	}
	const places = await placesOfSounds(
		studio,
		near.map((each) => each.hash)
	);
	return near.map((each) => ({
		hash: each.hash,
		name: each.name,
		change: recordChange(profile, area, bytes, each.bytes),
		places: places.get(each.hash) ?? []
	}));
}
