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
