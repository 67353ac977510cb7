import type { Edit } from './edit';
import type { ControlMap } from './map';
import { fitNames } from './names';
import { retarget, type Retargeted } from './retarget';
import { nameOf } from './strips';

/** Short names for the display, for all that a page shows: what is the same on every page is named with it. */
export interface FittedPage {
	edits: Edit[];
	/** How many names are other than they were. */
	changed: number;
	proved: boolean;
}

/**
 * Fits the names of a page to the surface's display: distinct, and the most readable together. A name that was typed and
 * fits stays.
 * @throws Problem `names.…` where there is no way
 */
export function fitPage(map: ControlMap, page: number): FittedPage {
	const { display } = map.surface;
	const p = map.pages.findIndex(({ number }) => number === page);
	const named = [
		...map.globals.map((assignment, i) => ({ assignment, path: ['globals', i] })),
		...(map.pages[p]?.assignments ?? []).map((assignment, i) => ({
			assignment,
			path: ['pages', p, 'assignments', i]
		}))
	].filter(({ assignment }) => nameOf(map, assignment) !== '');
	if (display?.names !== 'each' || named.length === 0) return { edits: [], changed: 0, proved: true };
	const { names, proved } = fitNames(
		named.map(({ assignment }) => nameOf(map, assignment)),
		display.characters,
		display.charset
	);
	const edits = named.flatMap(({ assignment, path }, i): Edit[] =>
		assignment.name === names[i].short ? [] : [{ path: [...path, 'name'], value: names[i].short }]
	);
	return { edits, changed: edits.length, proved };
}

/** Lists of targets that a page tells something. */
export const listsOf = (map: ControlMap, page: number): string[] => [
	...new Set(
		(map.pages.find(({ number }) => number === page)?.assignments ?? []).flatMap(({ links }) =>
			links.map(({ list }) => list)
		)
	)
];

/** Leads all that a page tells one list to another, as {@link retarget} does. Names for the display stay. */
export function retargetPage(
	map: ControlMap,
	page: number,
	from: string,
	to: string,
	channel?: number
): Pick<Retargeted, 'lacks' | 'kept'> & { edits: Edit[] } {
	const p = map.pages.findIndex(({ number }) => number === page);
	const [source, goal] = [from, to].map((wanted) => map.lists.find(({ id }) => id === wanted));
	if (p < 0 || !source || !goal) return { edits: [], lacks: [], kept: [] };
	const { page: led, lacks, kept } = retarget(map.pages[p], source, goal, channel);
	return { edits: [{ path: ['pages', p], value: led }], lacks, kept };
}
