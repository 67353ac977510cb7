import {
	foldName,
	nearlyNamed,
	searchWords,
	UNMARKED,
	type Bank,
	type Sighting,
	type SoundMark
} from '../core/drawer';
import { categoryOf, slotLabel, type Profile, type ProfileRecord } from '../core/profile';
import { listBanks } from './banks';
import type { Studio } from './db/connection';
import { letOthersIn } from './in-steps';
import { profileOrNull } from './profiles';
import { deviceNames } from './store/devices';
import { describeRecords } from './store/records';
import { allNames, sightingsByName, sightingsOfNames, sightingsOfSounds } from './store/sightings';
import { favouriteHashes, marksOf } from './store/sound-marks';
import { labelledVersions } from './store/versions';

/** A sound that was found, with what it says of itself and what somebody said of it. */
export interface Found extends Sighting {
	mark: SoundMark;
	/** The category that its own dump holds, or an empty text. */
	category: string;
}

/** Something else than a sound that was found by what is written on it. */
export interface FoundText {
	title: string;
	/** Where the words were found. */
	says: string;
	href: string;
	at: string;
}

export interface FoundSounds {
	found: Found[];
	more: boolean;
	/** Nothing has all the words; these have all but one slip. */
	nearly: boolean;
}

/** Sounds that are looked at for a near name, at most. */
const NAMES = 40;

async function nearNames(studio: Studio, query: string): Promise<string[]> {
	const words = searchWords(query);
	const near: string[] = [];
	for await (const part of allNames(studio)) {
		near.push(...part.filter((name) => nearlyNamed(name, words)));
		if (near.length >= NAMES) break;
		await letOthersIn();
	}
	return near.slice(0, NAMES);
}

/** Adds to sightings what their contents hold, and what people said of them. */
async function described(studio: Studio, sightings: readonly Sighting[]): Promise<Found[]> {
	const marks = await marksOf(
		studio,
		sightings.map(({ record }) => record)
	);
	const layoutOf = ({ profileId, area }: Sighting) => recordIn(profileOrNull(studio, profileId), area);
	// Only contents that hold a category are read. A damaged one is still found; what is wrong with it is told by `check`.
	const records = await describeRecords(
		studio,
		sightings.filter((sighting) => layoutOf(sighting)?.category).map(({ record }) => record)
	);
	return sightings.map((sighting) => {
		const [record, layout] = [records.get(sighting.record), layoutOf(sighting)];
		return {
			...sighting,
			category: record && layout ? categoryOf(layout, record.bytes) : '',
			mark: marks.get(sighting.record) ?? UNMARKED
		};
	});
}

/** What the slots of an area hold; none where a newer revision of the profile has no such area. */
function recordIn(profile: Profile | null, area: string): ProfileRecord | null {
	const found = profile?.areas.find(({ id }) => id === area);
	return found ? profile!.records[found.record] : null;
}

/**
 * Sounds whose names hold all the words, in all drawers: what is in a device now first, then the newest. Where there is
 * none, those that hold them but for one slip.
 */
export async function findSounds(studio: Studio, query: string, limit = 200): Promise<FoundSounds> {
	let found = await sightingsByName(studio, query, limit + 1);
	const nearly = found.length === 0 && query.trim() !== '';
	if (nearly) found = await sightingsOfNames(studio, await nearNames(studio, query), limit + 1);
	return {
		found: await described(studio, found.slice(0, limit)),
		more: found.length > limit,
		nearly: nearly && found.length > 0
	};
}

/** The favourites, wherever they are. */
export async function favourites(studio: Studio, limit = 200): Promise<FoundSounds> {
	const found = await sightingsOfSounds(studio, await favouriteHashes(studio), limit + 1);
	return { found: await described(studio, found.slice(0, limit)), more: found.length > limit, nearly: false };
}

const holds = (words: readonly string[], ...texts: string[]): boolean => {
	const folded = foldName(texts.join(' '));
	return words.every((word) => folded.includes(word));
};

/** Versions by title, note and tags, and banks by title, note, songs and the names of their sounds. */
export async function findTexts(studio: Studio, query: string, limit = 60): Promise<FoundText[]> {
	const words = searchWords(query);
	if (words.length === 0) return [];
	const devices = await deviceNames(studio);
	const versions = (await labelledVersions(studio))
		.filter(({ title, note, tags }) => holds(words, title, note, ...tags))
		.map(({ id, deviceId, takenAt, title, note, tags }): FoundText => ({
			title: `${devices.get(deviceId)?.name ?? ''}: ${title || 'a version'}`,
			says: [note, tags.join(', ')].filter(Boolean).join(' · '),
			href: `/gear/${deviceId}/drawer?v=${id}`,
			at: takenAt
		}));
	const banks = (await listBanks(studio)).flatMap((bank): FoundText[] => {
		const why = bankHolds(studio, bank, words);
		return why === null
			? []
			: [
					{
						title: `Bank: ${bank.document.title}`,
						says: why,
						href: `/sounds/banks/${bank.id}`,
						at: bank.updatedAt
					}
				];
	});
	return [...banks, ...versions].slice(0, limit);
}

/** Where in a bank the words are, or null where they are not. */
function bankHolds(studio: Studio, { document }: Bank, words: readonly string[]): string | null {
	if (holds(words, document.title, document.note)) return document.note;
	const profile = profileOrNull(studio, document.profileId);
	const labels = profile?.areas.find(({ id }) => id === document.area)?.labels;
	const places = document.entries.flatMap((entry, index) =>
		entry && holds(words, entry.name, entry.song)
			? [
					`${labels ? slotLabel(labels, index) : index + 1} ${entry.name}${entry.song ? ` for “${entry.song}”` : ''}`
				]
			: []
	);
	if (places.length === 0) return null;
	return `${places.slice(0, 4).join(', ')}${places.length > 4 ? ` and ${places.length - 4} more` : ''}`;
}
