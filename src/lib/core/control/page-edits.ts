import type { Edit } from '../edit';
import { mainChannel } from './copies';
import type { ControlMap, MapPage } from './map';
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

/** The edits that put a page in the place of another one, and that in its own. What was learnt stays with the numbers. */
export function swapPages(map: ControlMap, a: number, b: number): Edit[] {
	const swapped = (number: number) => (number === a ? b : number === b ? a : number);
	if (!map.pages.some(({ number }) => number === a) || a === b) return [];
	const pages = map.pages
		.map((page) => ({
			...page,
			number: swapped(page.number),
			...(page.like ? { like: { ...page.like, page: swapped(page.like.page) } } : {})
		}))
		.sort((one, other) => one.number - other.number);
	return [{ path: ['pages'], value: pages }];
}

/** The edits that take a page away; the last one stays. */
export const removePage = (map: ControlMap, number: number): Edit[] =>
	map.pages.length < 2
		? []
		: [{ path: ['pages'], value: map.pages.filter((page) => page.number !== number) }];

/** Programs with which a page opens as they are written, counted from 1: `ch 1: 1–8, 12; ch 3: 5`. */
export const programsText = ({ programs }: Pick<MapPage, 'programs'>): string =>
	[...new Set(programs.map(({ channel }) => channel))]
		.map((of) => {
			const ranges = programs.filter(({ channel }) => channel === of);
			return `ch ${of}: ${ranges.map(({ from, to }) => (from === to ? from + 1 : `${from + 1}–${to + 1}`)).join(', ')}`;
		})
		.join('; ');

/** Numbers that were written in ranges, from 1 to `most`: `1–8, 12`. Null where they are none. */
function rangesMeant(text: string, most: number): { from: number; to: number }[] | null {
	const ranges = text.split(',').map((range) => {
		const ends = /^\s*(\d{1,3})(?:\s*[-–—]\s*(\d{1,3}))?\s*$/.exec(range);
		return ends && { from: Number(ends[1]), to: Number(ends[2] ?? ends[1]) };
	});
	const all = ranges.filter(
		(range) => range !== null && range.from >= 1 && range.to >= range.from && range.to <= most
	);
	return all.length === ranges.length ? (all as { from: number; to: number }[]) : null;
}

/** What was meant by programs that were written; a channel that is not told is the page's own. Null where they are none. */
export function programsMeant(page: MapPage, text: string): MapPage['programs'] | null {
	const programs: MapPage['programs'] = [];
	for (const part of text.split(';').map((each) => each.trim())) {
		if (part === '') continue;
		const [, told, written] = /^(?:ch\s*(\d{1,2})\s*:)?\s*(.*)$/i.exec(part)!;
		const channel = told ? Number(told) : (mainChannel(page) ?? 1);
		const ranges = rangesMeant(written, 128);
		if (!ranges || channel < 1 || channel > 16) return null;
		programs.push(...ranges.map(({ from, to }) => ({ channel, from: from - 1, to: to - 1 })));
	}
	return programs;
}

/** Channels that were written: `2–6, 9`. Null where they are none. */
export const channelsMeant = (text: string): number[] | null =>
	rangesMeant(text, 16)?.flatMap(({ from, to }) =>
		Array.from({ length: to - from + 1 }, (_, i) => from + i)
	) ?? null;
