import type { Edit } from '../edit';
import type { Assignment, ControlMap, MapPage } from './map';
import type { Line } from './written';

/** An assignment for another part: what went to one channel goes to another. */
const shifted = (assignment: Assignment, { from, to }: NonNullable<MapPage['like']>): Assignment => ({
	...assignment,
	links: assignment.links.map((link) => (link.channel === from ? { ...link, channel: to } : link))
});

const keyOf = ({ control, gesture }: Pick<Assignment, 'control' | 'gesture'>) => `${control} ${gesture}`;
const byLine = (assignments: readonly Assignment[]) =>
	new Map(assignments.map((assignment) => [keyOf(assignment), assignment]));
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What a copy says where it does not differ: the first one's lines on its own channel, by line. */
function asFirstSays(map: ControlMap, page: MapPage | undefined): Map<string, Assignment> | null {
	const like = page?.like;
	const first = like && like.page !== page.number && map.pages.find(({ number }) => number === like.page);
	return first ? byLine(first.assignments.map((each) => shifted(each, like))) : null;
}

/** The channel that most links of a page have, of two as many the smaller; null where it has none. */
export function mainChannel({ assignments }: Pick<MapPage, 'assignments'>): number | null {
	const times = new Map<number, number>();
	for (const { channel } of assignments.flatMap(({ links }) => links))
		times.set(channel, (times.get(channel) ?? 0) + 1);
	return [...times].sort(([a, x], [b, y]) => y - x || a - b).at(0)?.[0] ?? null;
}

/**
 * The edits that make a copy of a page for each of these channels, at the first free pages of the surface. Channels that
 * have one already, and the page's own, are left out.
 */
export function copiesFor(map: ControlMap, number: number, channels: readonly number[]): Edit[] {
	const first = map.pages.find((page) => page.number === number);
	const from = first && mainChannel(first);
	if (!first || from === null || from === undefined || first.like) return [];
	const has = new Set(map.pages.flatMap(({ like }) => (like?.page === number ? [like.to] : [])));
	const wanted = [...new Set(channels)].filter((channel) => channel !== from && !has.has(channel));
	const taken = new Set(map.pages.map((page) => page.number));
	const free = Array.from({ length: map.surface.pages.count }, (_, i) => i + 1).filter((n) => !taken.has(n));
	return wanted.slice(0, free.length).map((to, i) => {
		const like = { page: number, from, to };
		return {
			path: ['pages', map.pages.length + i],
			value: {
				number: free[i],
				// The channel first: where a display or a template cuts a name, that stays.
				name: `Ch ${to}${first.name ? ` ${first.name}` : ''}`.slice(0, 60),
				programs: [],
				assignments: first.assignments.map((each) => shifted(each, like)),
				like
			}
		};
	});
}

/** Lines of a copy that are not as the first one's. */
export function differencesOf(map: ControlMap, number: number): Line[] {
	const page = map.pages.find((each) => each.number === number);
	const first = asFirstSays(map, page);
	if (!page || !first) return [];
	const own = byLine(page.assignments);
	return [...new Map([...first, ...own])]
		.filter(([key]) => !same(first.get(key), own.get(key)))
		.map(([, { control, gesture }]) => ({ page: number, control, gesture }));
}

/** The edits that make a copy, or one line of it, as the first one is again. */
export function asFirst(map: ControlMap, number: number, line?: Line): Edit[] {
	const p = map.pages.findIndex((each) => each.number === number);
	const page = map.pages.at(p);
	const first = asFirstSays(map, page);
	if (p < 0 || !page || !first) return [];
	const wanted = new Set((line ? [line] : differencesOf(map, number)).map(keyOf));
	if (wanted.size === 0) return [];
	return [{ path: ['pages', p, 'assignments'], value: led(page.assignments, first, wanted) }];
}

/** Assignments in which these lines are as given; gone where they are not. */
function led(
	assignments: readonly Assignment[],
	given: ReadonlyMap<string, Assignment>,
	keys: ReadonlySet<string>
): Assignment[] {
	const kept = assignments.flatMap((each) => {
		if (!keys.has(keyOf(each))) return [each];
		const now = given.get(keyOf(each));
		return now ? [now] : [];
	});
	const has = new Set(assignments.map(keyOf));
	return [...kept, ...[...keys].flatMap((key) => (has.has(key) ? [] : (given.get(key) ?? [])))];
}

/**
 * What copies do when what they are copies of has changed: lines that were as the first one's are so again; those that
 * differed stay. A copy of nothing stands alone.
 */
export function followFirst(before: ControlMap, after: ControlMap): Edit[] {
	return after.pages.flatMap((page, p): Edit[] => {
		if (!page.like) return [];
		const now = asFirstSays(after, page);
		if (!now) return [{ path: ['pages', p, 'like'] }];
		const was = asFirstSays(
			before,
			before.pages.find(({ number }) => number === page.number)
		);
		if (!was) return [];
		const own = byLine(page.assignments);
		const follow = new Set(
			[...new Set([...was.keys(), ...now.keys()])].filter(
				(key) => !same(was.get(key), now.get(key)) && same(own.get(key), was.get(key))
			)
		);
		return follow.size === 0
			? []
			: [{ path: ['pages', p, 'assignments'], value: led(page.assignments, now, follow) }];
	});
}
