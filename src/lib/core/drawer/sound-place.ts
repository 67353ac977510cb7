import type { RecordChange } from './parameter-changes';

/** A slot that a sound is in, or was in last. */
export interface SoundPlace {
	deviceId: string;
	device: string;
	/** As the panel shows it. */
	label: string;
	/** It is there now, as far as is known. */
	current: boolean;
}

/** A sound that is nearly like another one. */
export interface Alike {
	hash: string;
	name: string | null;
	/** What differs, from the sound that it is compared with to this one; null where nothing does. */
	change: RecordChange | null;
	places: SoundPlace[];
}

/** The first few places of a sound, in words; `and 4 more places` where that is not all. */
export function placesInWords(places: readonly SoundPlace[], shown = 3): string {
	const told = places
		.slice(0, shown)
		.map(({ device, label, current }) => `${device} ${label}${current ? '' : ' (was)'}`)
		.join(', ');
	const more = places.length - shown;
	return more > 0 ? `${told} and ${more} more ${more === 1 ? 'place' : 'places'}` : told;
}
