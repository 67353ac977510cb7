/** Something that stands somewhere. */
export interface Standing {
	id: string;
	place: string;
}

/**
 * The order that needs the fewest steps across the room: place by place, each visited once, beginning where the
 * musician is and going on in the room's own order (`places`); within a place as given.
 */
export function walkOrder<T extends Standing>(
	things: readonly T[],
	places: readonly string[],
	here = ''
): T[] {
	const rank = new Map<string, number>();
	const note = (place: string) => rank.has(place) || rank.set(place, rank.size);
	if (here) note(here);
	for (const place of places) note(place);
	for (const { place } of things) note(place);
	return things.toSorted((a, b) => rank.get(a.place)! - rank.get(b.place)!);
}

/** How often the musician changes places on this way. */
export const placeChanges = (things: readonly Standing[], here = ''): number => {
	let at = here;
	let changes = 0;
	for (const { place } of things) {
		if (at !== '' && place !== at) changes++;
		at = place;
	}
	return changes;
};
