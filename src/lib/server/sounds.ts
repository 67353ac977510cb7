import {
	type Alike,
	groupFamilies,
	lifeNear,
	recordChange,
	type Family,
	type FamilyOptions,
	type FoundSound,
	type Life
} from '../core/drawer';
import { areaOf, categoryOf, shownFields } from '../core/profile';
import type { Studio } from './db/connection';
import { currentProfile } from './profiles';
import { keptRecord, recordsOf, type StoredRecord } from './store/records';
import { inSteps } from './in-steps';
import { placesOfSounds, soundsByName, staysOf } from './store/sightings';

export interface Sound {
	profileId: string;
	area: string;
	hash: string;
	name: string | null;
	model: string;
	parameters: { id: string; name: string; shown: string }[];
	/** The category that it holds itself, or an empty text. */
	category: string;
}

/** A sound by its content. @throws Problem `sound.not-found` */
export async function getSound(studio: Studio, hash: string): Promise<Sound> {
	const row = await keptRecord(studio, hash);
	const profile = currentProfile(studio, row.profileId);
	const record = profile.records[areaOf(profile, row.area).record];
	return {
		profileId: row.profileId,
		area: row.area,
		hash,
		name: row.name,
		model: `${profile.maker} ${profile.model}`,
		parameters: shownFields(profile, record, row.bytes),
		category: categoryOf(record, row.bytes)
	};
}

/** The life of a sound across slots, devices of its model and years. */
export async function lifeOfSound(studio: Studio, hash: string): Promise<{ sound: Sound; life: Life }> {
	const sound = await getSound(studio, hash);
	const profile = currentProfile(studio, sound.profileId);
	const stays = await staysOf(studio, sound.profileId, sound.area);
	return { sound, life: await lifeNear(profile, hash, stays) };
}

export interface FamilyView extends Omit<Family, 'members' | 'differing'> {
	size: number;
	differing: string[];
	/** Each compared with the first. */
	members: Alike[];
}

/** How many members of a family are described; the rest is counted. */
const SHOWN = 24;

/** Sounds of a model that are the same or nearly so, in all drawers: largest families first. */
export async function familiesOf(
	studio: Studio,
	profileId: string,
	area: string,
	options: FamilyOptions,
	limit = 60
): Promise<{ families: FamilyView[]; sounds: number; all: number }> {
	const profile = currentProfile(studio, profileId);
	const records: StoredRecord[] = [];
	for await (const part of recordsOf(studio, profileId, area)) records.push(...part);
	const patches = records.map(({ hash, bytes }) => ({ key: hash, bytes }));
	const found = await inSteps(groupFamilies(profile, area, patches, options));
	const shown = found.slice(0, limit);
	const byHash = new Map(records.map((record) => [record.hash, record]));
	const hashes = shown.flatMap(({ members }) => members.slice(0, SHOWN));
	const places = await placesOfSounds(studio, hashes);
	const names = new Map(
		profile.records[areaOf(profile, area).record].parameters.map(({ id, name }) => [id, name])
	);
	return {
		sounds: records.length,
		all: found.length,
		families: shown.map(({ members, kind, spread, differing }) => {
			const first = byHash.get(members[0])!;
			return {
				kind,
				spread,
				size: members.length,
				differing: differing.map((id) => names.get(id) ?? id),
				members: members.slice(0, SHOWN).map((hash) => ({
					hash,
					name: byHash.get(hash)!.name,
					places: places.get(hash) ?? [],
					change:
						hash === members[0] ? null : recordChange(profile, area, first.bytes, byHash.get(hash)!.bytes)
				}))
			};
		})
	};
}

/** Sounds of one model by name, each content once, for the bank builder: what is in a device now first. */
export const soundsFor = (
	studio: Studio,
	profileId: string,
	area: string,
	query: string,
	limit = 120
): Promise<FoundSound[]> => soundsByName(studio, profileId, area, query, limit);
