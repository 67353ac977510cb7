import type { Sighting } from '../core/drawer';
import type { Studio } from './db/connection';
import { sightingsByName } from './store/sightings';

/** Sounds whose names hold all the words, in all drawers: what is in a device now first, then the newest. */
export async function findSounds(
	studio: Studio,
	query: string,
	limit = 200
): Promise<{ found: Sighting[]; more: boolean }> {
	const found = await sightingsByName(studio, query, limit + 1);
	return { found: found.slice(0, limit), more: found.length > limit };
}
