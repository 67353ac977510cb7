import { pageTitle, stripsOf, type Strip } from '../core/control';
import { scenesPlayed, type ShowSet } from '../core/scene';
import type { Studio } from './db/connection';
import { mapRows } from './store/maps';

/** The paper strips of the controllers' pages that the songs of a set use, each once, in the order of the set. */
export async function setStrips(studio: Studio, set: ShowSet): Promise<Strip[]> {
	const maps = await mapRows(studio);
	const done = new Set<string>();
	return scenesPlayed(set).flatMap(({ scene }) =>
		scene.pages.flatMap((wanted) => {
			const key = JSON.stringify(wanted);
			const map = maps.find(({ document }) => document.name === wanted.controller)?.document;
			const page = map?.pages.find((each) => pageTitle(each) === wanted.page);
			if (!map || !page || done.has(key)) return [];
			done.add(key);
			return stripsOf(map, [page.number]);
		})
	);
}
