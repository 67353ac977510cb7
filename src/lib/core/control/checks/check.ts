import type { Edit } from '../../edit';
import type { Assignment, ControlMap, Link, MapPage } from '../map';
import { controlName, portNamed, type Surface, type SurfaceControl } from '../surface';
import { restOn } from '../written';
import type { Target, TargetList } from '../../profile';

/** Something that is wrong with a map, and what puts it right. */
export interface MapTrouble {
	rule: string;
	severity: 'error' | 'warning' | 'note';
	says: string;
	/** Where in the map, as a path into its data. */
	at: (string | number)[];
	/** What can be done; with no edits it is done by hand. */
	cure: { says: string; edits: Edit[] };
}

/** A link with everything it names. */
export interface Linked {
	link: Link;
	list: TargetList | undefined;
	target: Target | undefined;
	path: (string | number)[];
}

/** An assignment where it stands. */
export interface Placed {
	/** Null for what is global. */
	page: MapPage | null;
	assignment: Assignment;
	control: SurfaceControl | undefined;
	path: (string | number)[];
	links: Linked[];
	/** As people say it: “Filter page, Knob 3 (push)”. */
	words: string;
}

/** A map with its references followed. */
export interface Checked {
	map: ControlMap;
	surface: Surface;
	placed: Placed[];
	controls: ReadonlyMap<string, SurfaceControl>;
}

export interface MapRule {
	id: string;
	find(checked: Checked): Omit<MapTrouble, 'rule'>[];
}

/** A page in the maker's word. */
export const pageWords = ({ pages }: Surface, page: MapPage): string =>
	`${pages.word} ${page.number}${page.name ? ` “${page.name}”` : ''}`;

/** Follows everything that a map names. */
export function follow(map: ControlMap): Checked {
	const controls = new Map(map.surface.controls.map((control) => [control.id, control]));
	const lists = new Map(map.lists.map((list) => [list.id, list]));
	const targets = new Map(
		map.lists.flatMap((list) => list.targets.map((target) => [`${list.id} ${target.id}`, target] as const))
	);
	const place = (page: MapPage | null, assignment: Assignment, path: (string | number)[]): Placed => {
		const control = controls.get(assignment.control);
		const gesture = assignment.gesture === 'move' ? '' : ` (${assignment.gesture.replace('-', ' ')})`;
		return {
			page,
			assignment,
			control,
			path,
			links: assignment.links.map((link, i) => ({
				link,
				list: lists.get(link.list),
				target: targets.get(`${link.list} ${link.target}`),
				path: [...path, 'links', i]
			})),
			words: `${page ? pageWords(map.surface, page) : `every ${map.surface.pages.word}`}, ${control?.name ?? assignment.control}${gesture}`
		};
	};
	return {
		map,
		surface: map.surface,
		controls,
		placed: [
			...map.globals.map((assignment, i) => place(null, assignment, ['globals', i])),
			...map.pages.flatMap((page, p) =>
				page.assignments.map((assignment, i) => place(page, assignment, ['pages', p, 'assignments', i]))
			)
		]
	};
}

/** What can be heard at once: the globals with each page. */
export const views = ({ map, placed }: Checked): { page: MapPage | null; placed: Placed[] }[] =>
	map.pages.length === 0
		? [{ page: null, placed }]
		: map.pages.map((page) => ({
				page,
				placed: placed.filter((each) => each.page === null || each.page === page)
			}));

/** The port of the surface on which a control speaks. */
export const portOf = (surface: Surface, control: SurfaceControl | undefined) =>
	portNamed(surface, control?.port);

/**
 * What puts right that controls jump: another way of picking up, where the surface offers one; else a rest that the page has;
 * else what is done by hand.
 */
export function jumpCure(map: ControlMap, page: number, byHand: string): MapTrouble['cure'] {
	const { surface } = map;
	const way = surface.pickUp.find((each) => each !== 'jump');
	const rest = restOn(map, page);
	return way
		? {
				says: `Have the controls ${way}; set the ${surface.model} so, too.`,
				edits: [{ path: ['pickUp'], value: way }]
			}
		: {
				says: rest
					? `Hold ${controlName(surface, rest.control)}, which silences it, and move them to where their values are.`
					: byHand,
				edits: []
			};
}
