import { assignmentsOf, linked, linksOf, type Assignment, type ControlMap, type MapPage } from './map';
import { pickUpsOf } from './pick-up';
import { pressesBetween } from './surface';

/**
 * Questions that schools of controller maps answer differently, each with its two answers and what these cost. A map's lines
 * show which one it follows; a map can also say which it means to.
 */
export const SCHOOLS = {
	pads: {
		title: 'Pads',
		ways: {
			selected: {
				title: 'play whatever is selected',
				costs: 'One channel for all: quick, and a wrong selection plays the wrong thing.'
			},
			own: {
				title: 'have a channel for each page',
				costs: 'A pad plays what its page says; each page is set up by itself.'
			}
		}
	},
	protocol: {
		title: 'Controls speak',
		ways: {
			midi: {
				title: 'plain MIDI',
				costs: 'Any host and any device takes it; names and values do not come back by themselves.'
			},
			host: {
				title: 'to the host',
				costs: 'Names and values come back; it works with that host alone, and its switches have to be right.'
			}
		}
	},
	knobs: {
		title: 'Encoders send',
		ways: {
			absolute: {
				title: 'positions',
				costs: 'Every device reads them; after a change of page the value can jump.'
			},
			relative: {
				title: 'steps',
				costs: 'Nothing jumps; not every device reads them, and a wide range takes many turns.'
			}
		}
	},
	spread: {
		title: 'A page has',
		ways: {
			part: {
				title: 'one part with all its parameters',
				costs: 'All of a sound at hand; another part is another page.'
			},
			across: {
				title: 'one parameter of all parts',
				costs: 'A balance at one glance; another parameter is another page.'
			}
		}
	},
	pages: {
		title: 'The map has',
		ways: {
			one: { title: 'one page', costs: 'No page to remember or to reach; it ends where the controls do.' },
			many: {
				title: 'many pages',
				costs: 'Room for everything; it takes presses, and knowing which page shows.'
			}
		}
	},
	amount: {
		title: 'Controls are',
		ways: {
			few: { title: 'few in use', costs: 'Little is hit by mistake; what is missing is set by hand.' },
			all: { title: 'all in use', costs: 'Much at hand; a wrong touch moves something.' }
		}
	}
} as const;
export type SchoolQuestion = keyof typeof SCHOOLS;

/** What a map's lines answer to one question. */
export interface School {
	question: SchoolQuestion;
	/** The answer that they follow; null where they follow both or none. */
	way: string | null;
	/** In numbers of this map. */
	says: string;
	/** What the map says that it means to be; null where it says nothing. */
	meant: string | null;
}

const some = (n: number, word: string, many = `${word}s`) => `${n} ${n === 1 ? word : many}`;
const kindOf = (map: ControlMap, { control }: Assignment) =>
	map.surface.controls.find(({ id }) => id === control)?.kind;

type Answer = Pick<School, 'way' | 'says'>;

function pads(map: ControlMap): Answer {
	const pages = map.pages
		.map(({ assignments }) => [
			...new Set(
				assignments
					.filter((each) => kindOf(map, each) === 'pad')
					.flatMap(({ links }) => links)
					.filter((link) => linked(map, link).target?.address.kind === 'note')
					.map(({ channel }) => channel)
			)
		])
		.filter((channels) => channels.length > 0);
	if (pages.length === 0) return { way: null, says: 'No pad plays a note.' };
	const channels = [...new Set(pages.flat())].sort((a, b) => a - b);
	const says = `Pads of ${some(pages.length, 'page')} play on channel ${channels.join(', ')}.`;
	if (channels.length === 1) return { way: 'selected', says };
	const apart = pages.every((own) => own.length === 1) && channels.length === pages.length;
	return { way: apart ? 'own' : null, says };
}

function protocol(map: ControlMap): Answer {
	const links = linksOf(map);
	const host = links.filter((link) => linked(map, link).list?.whose === 'host').length;
	if (links.length === 0) return { way: null, says: 'Nothing is told yet.' };
	return {
		way: host === 0 ? 'midi' : host === links.length ? 'host' : null,
		says: `${host} of ${some(links.length, 'link')} tell the host.`
	};
}

function knobs(map: ControlMap): Answer {
	const turned = assignmentsOf(map).filter(
		(each) =>
			kindOf(map, each) === 'encoder' &&
			each.links.length > 0 &&
			(each.way === 'absolute' || each.way === 'relative')
	);
	if (turned.length === 0) return { way: null, says: 'No encoder moves anything.' };
	const steps = turned.filter(({ way }) => way === 'relative').length;
	return {
		way: steps === 0 ? 'absolute' : steps === turned.length ? 'relative' : null,
		says: `${steps} of ${some(turned.length, 'encoder')} send steps.`
	};
}

/** Fewer lines than this say nothing of how a page is laid out. */
const FEWEST = 3;

function spreadOf(map: ControlMap, { assignments }: MapPage): 'part' | 'across' | null {
	const links = assignments
		.filter(({ way }) => way === 'absolute' || way === 'relative')
		.flatMap((each) => each.links);
	if (links.length < FEWEST) return null;
	const parts = new Set(links.map(({ list, channel }) => `${list} ${channel}`)).size;
	const whats = new Set(
		links.map((link) => linked(map, link).target?.function || linked(map, link).target?.name || link.target)
	).size;
	if (parts === 1 && whats >= FEWEST) return 'part';
	return whats === 1 && parts >= FEWEST ? 'across' : null;
}

function spread(map: ControlMap): Answer {
	const told = map.pages.map((page) => spreadOf(map, page));
	const [part, across] = (['part', 'across'] as const).map(
		(way) => told.filter((each) => each === way).length
	);
	if (part + across === 0) return { way: null, says: 'No page shows it.' };
	const says = `${some(part, 'page')} with one part, ${across} across all parts.`;
	return { way: across === 0 ? 'part' : part === 0 ? 'across' : null, says };
}

const pressesApart = (most: number) => (most === 1 ? 'one press apart' : `at most ${most} presses apart`);

function pages(map: ControlMap): Answer {
	const used = map.pages.filter(({ assignments }) => assignments.some(({ links }) => links.length > 0));
	if (used.length === 0) return { way: null, says: 'Nothing is on a page yet.' };
	if (used.length === 1) return { way: 'one', says: 'One page is used.' };
	const far = used.flatMap(({ number: a }) =>
		used.map(({ number: b }) => pressesBetween(map.surface.pages, a, b))
	);
	const most = far.some((presses) => presses === null)
		? 'some cannot be reached by a press'
		: pressesApart(Math.max(...far.map((presses) => presses!)));
	const elsewhere = pickUpsOf(map).reduce((sum, song) => sum + song.elsewhere.length, 0);
	const jumps =
		map.songs.length > 0
			? `; in the set ${some(elsewhere, 'touch', 'touches')} can find a control elsewhere`
			: '';
	return { way: 'many', says: `${some(used.length, 'page')} are used, ${most}${jumps}.` };
}

function amount(map: ControlMap): Answer {
	const movable = map.surface.controls.filter(({ kind }) => kind !== 'keys' && kind !== 'socket');
	const used = new Set(
		assignmentsOf(map)
			.filter(({ links }) => links.length > 0)
			.map(({ control }) => control)
	);
	const count = movable.filter(({ id }) => used.has(id)).length;
	if (count === 0) return { way: null, says: 'No control does anything yet.' };
	const share = count / movable.length;
	return {
		way: share >= 0.8 ? 'all' : share <= 0.5 ? 'few' : null,
		says: `${count} of ${some(movable.length, 'control')} do something.`
	};
}

const ANSWERS: Record<SchoolQuestion, (map: ControlMap) => Answer> = {
	pads,
	protocol,
	knobs,
	spread,
	pages,
	amount
};

/** Which school a map's lines follow, question by question, beside what it says that it means to be. */
export const schoolsOf = (map: ControlMap): School[] =>
	(Object.keys(SCHOOLS) as SchoolQuestion[]).map((question) => ({
		question,
		...ANSWERS[question](map),
		meant: map.schools[question] ?? null
	}));

/** An answer as people say it: “Pads play whatever is selected”. */
export function schoolWords(question: SchoolQuestion, way: string): string {
	const { title, ways } = SCHOOLS[question];
	return `${title} ${(ways as Record<string, { title: string }>)[way]?.title ?? way}`;
}
