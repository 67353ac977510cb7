import type { World } from './knowledge';

/** A name folded for searching: no accents, no case, single spaces. */
export const foldName = (name: string): string =>
	name
		.normalize('NFD')
		.replace(/\p{Diacritic}/gu, '')
		.toLowerCase()
		.replace(/\s+/g, ' ')
		.trim();

/** The words of a search; all of them must occur in a name. */
export const searchWords = (query: string): string[] => foldName(query).split(' ').filter(Boolean);

/** A sound found by its name, each content once. */
export interface FoundSound {
	hash: string;
	name: string;
	deviceId: string;
	device: string;
	label: string;
	/** It was there when the device was read last. */
	current: boolean;
	fromAt: string;
}

/** One stretch of time in which a slot held a sound of that name. */
export interface Sighting {
	name: string;
	/** The profile that reads it. */
	profileId: string;
	deviceId: string;
	deviceName: string;
	place: string;
	area: string;
	label: string;
	slot: number;
	/** The version in which it was first seen there. */
	versionId: string;
	fromAt: string;
	/** Null while nothing else was seen there. */
	toAt: string | null;
	world: World;
	/** It was there when the device was read last, in the studio's own world. */
	current: boolean;
	/** SHA-256 of the record: equal for equal sounds. */
	record: string;
}
