import type { Target, TargetList } from '../profile';
import { targetListSchema } from '../profile';
import { applyEdits, type Edit } from '../edit';
import { linked, linksOf, type Assignment, type ControlMap, type Link } from './map';
import { SPEC_TARGETS } from './spec-targets';
import { nameOf } from './strips';
import type { Gesture, SurfaceControl } from './surface';
import { listFor, OWN, toldWords, type Meant } from './target-words';

/** A line of a strip: what one gesture of a control does, on a page or, as `null`, on all of them. */
export interface Line {
	page: number | null;
	control: string;
	gesture: Gesture;
}

/** The place of a line's assignment in a map's data, and what it is; null where nothing is written. */
export function written(
	map: ControlMap,
	{ page, control, gesture }: Line
): { path: (string | number)[]; assignment: Assignment } | null {
	const p = map.pages.findIndex(({ number }) => number === page);
	const [list, path] =
		page === null
			? [map.globals, ['globals']]
			: [map.pages[p]?.assignments ?? [], ['pages', p, 'assignments']];
	const at = list.findIndex((each) => each.control === control && each.gesture === gesture);
	return at < 0 ? null : { path: [...path, at], assignment: list[at] };
}

/** What stands on a line: its own, or what is the same on every page. */
export function standing(
	map: ControlMap,
	line: Line
): { assignment: Assignment; everywhere: boolean } | null {
	const own = written(map, line);
	if (own) return { assignment: own.assignment, everywhere: line.page === null };
	const all = written(map, { ...line, page: null });
	return all ? { assignment: all.assignment, everywhere: true } : null;
}

/** The push that silences a surface while it is held, on a page: its line, or null. */
export const restOn = ({ globals, pages }: ControlMap, page: number): Assignment | null =>
	[...(pages.find(({ number }) => number === page)?.assignments ?? []), ...globals].find(
		({ way }) => way === 'rest'
	) ?? null;

/** A line as it reads on its strip. */
export function lineText(map: ControlMap, line: Line): string {
	const found = standing(map, line);
	if (!found) return '';
	const { empty, name, links } = found.assignment;
	// As it was written: several with semicolons, so that it means the same when it is written again.
	if (!empty && !name && links.length > 1) return links.map((link) => toldWords(map, link)).join('; ');
	return empty ? '—' : nameOf(map, found.assignment);
}

/** The channel that a list was told on last: on this page, else in this map. */
export function usualChannel(map: ControlMap, list: string, page: number | null): number {
	const last = (of: Pick<ControlMap, 'globals' | 'pages'>) =>
		linksOf(of).findLast((link) => link.list === list)?.channel;
	return (
		last({ globals: [], pages: map.pages.filter(({ number }) => number === page) }) ??
		last(map) ??
		listFor(map, list)?.channels[0] ??
		1
	);
}

/** How a control tells what it is made for, by the way its gesture is. */
export function wayFor(
	{ kind, sends }: SurfaceControl,
	gesture: Gesture,
	target: Target | undefined
): Assignment['way'] {
	if (gesture.endsWith('move'))
		return kind === 'encoder' && !sends.includes('absolute') ? 'relative' : 'absolute';
	if (target?.held || target?.address.kind === 'note') return 'momentary';
	return target?.switch ? 'toggle' : target ? 'value' : 'momentary';
}

/** The edits that write on a line what was meant. @throws nothing: an unknown wish changes nothing */
export function writeLine(map: ControlMap, line: Line, meant: Meant): Edit[] {
	if (meant.is === 'unknown') return [];
	const there = written(map, line);
	if (meant.is === 'nothing') return there ? [{ path: there.path }] : [];
	const control = map.surface.controls.find(({ id }) => id === line.control);
	if (!control) return [];
	const edits: Edit[] = [];
	const links: Link[] = [];
	let now = map;
	for (const each of meant.is === 'target' ? [meant, ...(meant.also ?? [])] : []) {
		const added = listEdits(now, each.list, each.adds);
		edits.push(...added);
		now = applyEdits(now, added);
		const was = there?.assignment.links.find(
			({ list, target }) => list === each.list && target === each.target
		);
		// What is told again stays as it was said.
		links.push(
			was
				? { ...was, channel: each.channel ?? was.channel }
				: {
						list: each.list,
						target: each.target,
						channel:
							each.channel ?? there?.assignment.links[0]?.channel ?? usualChannel(now, each.list, line.page),
						inverted: false,
						curve: 'even',
						reach: 'template'
					}
		);
	}
	const target = links.length > 0 ? linked(now, links[0]).target : undefined;
	const way =
		meant.is === 'target' ? wayFor(control, line.gesture, target) : meant.is === 'rest' ? 'rest' : 'absolute';
	const value: Assignment = {
		control: line.control,
		gesture: line.gesture,
		empty: meant.is === 'empty',
		links,
		way,
		...(way === 'value' && target ? { value: target.default ?? target.low } : {}),
		...(way === 'relative' ? { encoding: 'twos-complement' as const } : {}),
		name: '',
		colour: there?.assignment.colour ?? ''
	};
	if (there) return [...edits, { path: there.path, value }];
	if (line.page === null) return [...edits, { path: ['globals', map.globals.length], value }];
	const p = map.pages.findIndex(({ number }) => number === line.page);
	if (p < 0)
		return [
			...edits,
			{
				path: ['pages', map.pages.length],
				value: { number: line.page, name: '', programs: [], assignments: [value] }
			}
		];
	return [...edits, { path: ['pages', p, 'assignments', map.pages[p].assignments.length], value }];
}

/** A list that is not in the map yet comes into it with what is used of it. */
export function listEdits(map: ControlMap, list: string, adds: Target | null): Edit[] {
	const at = map.lists.findIndex(({ id }) => id === list);
	if (adds) {
		if (at >= 0) return [{ path: ['lists', at, 'targets', map.lists[at].targets.length], value: adds }];
		const own: TargetList = targetListSchema.parse({
			format: 'silent-drawer.targets',
			version: 1,
			...OWN,
			targets: [adds]
		});
		return [{ path: ['lists', map.lists.length], value: own }];
	}
	return at >= 0 || list !== SPEC_TARGETS.id
		? []
		: [{ path: ['lists', map.lists.length], value: SPEC_TARGETS }];
}

/** A map of a surface on which nothing is written yet. */
export const emptyMap = (surface: ControlMap['surface'], name: string): ControlMap => ({
	format: 'silent-drawer.map',
	version: 1,
	name,
	surface,
	lists: [],
	gear: null,
	globals: [],
	pages: [{ number: 1, name: '', programs: [], assignments: [], windows: [] }],
	reserved: [],
	hosted: 'nothing',
	echoes: false,
	keys: null,
	learnt: [],
	walked: [],
	songs: [],
	wishes: [],
	schools: {},
	host: { name: '', version: '', buttons: [], recipe: [] },
	pickUp: surface.pickUp[0],
	loudestStepDb: 3
});

/** The edits that make a line the same on every page, or this page's alone. */
export function spread(map: ControlMap, line: Line, everywhere: boolean): Edit[] {
	const [own, all] = [written(map, line), written(map, { ...line, page: null })];
	if (everywhere) {
		if (!own) return [];
		const at = all ? all.path : ['globals', map.globals.length];
		return [{ path: at, value: own.assignment }, { path: own.path }];
	}
	if (!all) return [];
	const p = map.pages.findIndex(({ number }) => number === line.page);
	if (p < 0) return [];
	return [
		...(own
			? []
			: [{ path: ['pages', p, 'assignments', map.pages[p].assignments.length], value: all.assignment }]),
		{ path: all.path }
	];
}
