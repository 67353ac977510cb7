import type { Edit } from '../edit';
import { linked, toldKey, type Assignment, type ControlMap, type Link, type MapPage } from './map';
import type { PageLayout, PagePlan, PageTask } from './pages';
import { nameOf } from './strips';
import { BODY_KINDS, type Gesture, type SurfaceControl } from './surface';
import { inWindow } from './window-views';
import { wayFor } from './written';

/** Something of a map that has one place: an assignment that stands somewhere, or a target that a song touches and none tells. */
export interface Unit {
	/** As the plan calls it, in words; no two are alike. */
	name: string;
	links: Link[];
	/** As it is today; null where it stands nowhere. */
	assignment: Assignment | null;
	/** Today's places, pages from 1, `null` for every page. */
	today: { page: number | null; control: string }[];
	/** On every page. */
	everywhere: boolean;
	stays: boolean;
	together: string;
}

/** What is planned: the task in names, and what they stand for. */
export interface SetPlan {
	task: PageTask;
	units: Unit[];
	/** Controls by the name that the task gives them. */
	controls: Map<string, SurfaceControl>;
	today: PageLayout;
	/** What no control of these rows can tell. */
	left: string[];
}

/** So many pages are planned at most. */
const MOST_PAGES = 64;

/** What is planned of a control: the first that a hand does with it. */
const gestureOf = ({ gestures }: SurfaceControl): Gesture => gestures[0];

/** Rows whose controls can be planned, in the order of the surface. */
export const plannableRows = ({ surface }: ControlMap): string[] => [
	...new Set(
		surface.controls.filter(({ kind }) => kind !== 'keys' && kind !== 'socket').map(({ row }) => row)
	)
];

/** Whether a control is made for what the links tell: what goes on and off is for buttons and pads, the rest is turned. */
function suits(map: ControlMap, { kind }: SurfaceControl, links: readonly Link[]): boolean {
	const target = links.length > 0 ? linked(map, links[0]).target : undefined;
	const pressed = !!target && (target.switch || target.held || target.address.kind === 'note');
	const turned = BODY_KINDS[kind].position || kind === 'encoder';
	return pressed ? kind === 'button' || kind === 'pad' : turned;
}

const keyOf = (links: readonly Link[]): string => links.map(toldKey).join();

/** Everything that has or wants a place on these controls. */
function unitsOf(map: ControlMap, controls: readonly SurfaceControl[]): Unit[] {
	const units = new Map<string, Unit>();
	const own = (assignment: Assignment) =>
		controls.some((each) => each.id === assignment.control && gestureOf(each) === assignment.gesture);
	const taken = new Set<string>();
	const nameFor = (links: readonly Link[], assignment: Assignment | null): string => {
		// Short enough for what tells two apart behind it.
		const base = (
			(assignment && nameOf(map, { ...assignment, name: '' })) ||
			links.map((link) => linked(map, link).target?.name ?? link.target).join(' + ')
		).slice(0, 70);
		const names = [base, `${base} ch ${links[0].channel}`];
		const name =
			names.find((each) => !taken.has(each)) ??
			Array.from({ length: 9999 }, (_, i) => `${base} (${i + 2})`).find((each) => !taken.has(each))!;
		taken.add(name);
		return name;
	};
	const wishOf = (links: readonly Link[]) =>
		map.wishes.find((wish) => links.some((link) => toldKey(link) === toldKey(wish)));
	const add = (links: Link[], assignment: Assignment | null): Unit => {
		const key = keyOf(links);
		let unit = units.get(key);
		if (!unit) {
			const wish = wishOf(links);
			unit = {
				name: nameFor(links, assignment),
				links,
				assignment,
				today: [],
				everywhere: wish?.everywhere ?? false,
				stays: wish?.stays ?? false,
				together: wish?.together ?? ''
			};
			units.set(key, unit);
		}
		return unit;
	};
	for (const assignment of map.globals)
		if (own(assignment) && assignment.links.length > 0) {
			const unit = add(assignment.links, assignment);
			unit.today.push({ page: null, control: assignment.control });
			unit.everywhere = true;
		}
	for (const page of map.pages)
		for (const assignment of page.like ? [] : page.assignments)
			if (
				own(assignment) &&
				assignment.links.length > 0 &&
				!inWindow(page, assignment.control, assignment.gesture)
			)
				add(assignment.links, assignment).today.push({ page: page.number, control: assignment.control });
	// What a window goes over has its place there.
	const windowed = map.pages.flatMap(({ windows }) => windows.flatMap(({ over }) => over.map(toldKey)));
	const told = new Set([...[...units.values()].flatMap(({ links }) => links.map(toldKey)), ...windowed]);
	for (const touch of map.songs.flatMap(({ touches }) => touches))
		if (!told.has(toldKey(touch)))
			add([{ ...touch, inverted: false, curve: 'even', reach: 'template' }], null);
	return [...units.values()];
}

/** What is planned on these rows of a surface: what stands on them today, and what the songs touch. */
export function setPlan(map: ControlMap, rows: readonly string[]): SetPlan {
	const chosen = map.surface.controls.filter(({ row }) => rows.includes(row));
	const plain = new Set(chosen.map(({ name }) => name)).size === chosen.length;
	const controls = new Map(chosen.map((control) => [plain ? control.name : control.id, control]));
	const nameOfControl = new Map([...controls].map(([name, { id }]) => [id, name]));
	const all = unitsOf(map, chosen);
	const suiting = (unit: Unit) =>
		[...controls].filter(([, control]) => suits(map, control, unit.links)).map(([name]) => name);
	const units = all.filter((unit) => suiting(unit).length > 0);
	const left = all.filter((unit) => suiting(unit).length === 0).map(({ name }) => name);
	/** The place of today that counts: what stands twice has one place afterwards. */
	const placeOf = ({ today, everywhere }: Unit) => today.find(({ page }) => (page === null) === everywhere);
	const held = heldPlaces(map, chosen).map(({ page, control }) => ({
		target: `kept: page ${page}, ${nameOfControl.get(control)}`.slice(0, 80),
		control: nameOfControl.get(control)!,
		page
	}));
	const today: PageLayout = new Map([
		...held.map(({ target, control, page }) => [target, { page, control }] as const),
		...units.flatMap((unit) => {
			const place = placeOf(unit);
			const control = place && nameOfControl.get(place.control);
			return place && control ? [[unit.name, { page: place.page, control }] as const] : [];
		})
	]);
	const named = new Map(units.flatMap((unit) => unit.links.map((link) => [toldKey(link), unit.name])));
	const { count, direct, step, round } = map.surface.pages;
	return {
		units,
		controls,
		today,
		left,
		task: {
			format: 'silent-drawer.page-task',
			version: 1,
			controls: [...controls.keys()],
			pages: { count: Math.min(count, MOST_PAGES), direct, step, round },
			targets: [
				...units.map((unit) => {
					const fit = suiting(unit);
					return {
						id: unit.name,
						function: linked(map, unit.links[0]).target?.function ?? '',
						group: unit.everywhere ? '' : unit.together,
						global: unit.everywhere,
						controls: fit.length === controls.size ? [] : fit
					};
				}),
				...held.map(({ target }) => ({ id: target, function: '', group: '', global: false, controls: [] }))
			],
			songs: map.songs.map(({ name, touches }) => ({
				name,
				touches: touches.flatMap((touch) => named.get(toldKey(touch)) ?? [])
			})),
			locked: [
				...units.flatMap((unit) => {
					const place = today.get(unit.name);
					return unit.stays && place
						? [
								{
									target: unit.name,
									control: place.control,
									...(place.page === null ? {} : { page: place.page })
								}
							]
						: [];
				}),
				...held
			]
		}
	};
}

/** What stays where it is, though it tells nothing: what is empty on purpose, and a rest. */
const isHeld = ({ empty, way }: Assignment): boolean => empty || way === 'rest';

/** Places that no plan may use: what is empty on purpose or a rest, what belongs to a window, and pages that follow another. */
const heldPlaces = (
	{ pages }: ControlMap,
	chosen: readonly SurfaceControl[]
): { page: number; control: string }[] =>
	pages.flatMap(({ number, assignments, like, windows }) =>
		chosen
			.filter(
				(control) =>
					number <= MOST_PAGES &&
					(like !== undefined ||
						inWindow({ windows }, control.id, gestureOf(control)) ||
						assignments.some(
							(each) => each.control === control.id && each.gesture === gestureOf(control) && isHeld(each)
						))
			)
			.map(({ id }) => ({ page: number, control: id }))
	);

/** The edits that put everything where a plan has it. What has no place there is on no page afterwards. */
export function planEdits(
	map: ControlMap,
	{ units, controls }: SetPlan,
	plan: Pick<PagePlan, 'places'>
): Edit[] {
	const planned = (each: Assignment) =>
		!isHeld(each) &&
		[...controls.values()].some(
			(control) => control.id === each.control && gestureOf(control) === each.gesture
		);
	const byName = new Map(units.map((unit) => [unit.name, unit]));
	const placed = plan.places.flatMap(({ target, page, control: name }) => {
		const [unit, control] = [byName.get(target), controls.get(name)];
		return unit && control ? [{ page, assignment: placedOn(map, control, unit) }] : [];
	});
	const on = (page: number | null) =>
		placed.filter((each) => each.page === page).map(({ assignment }) => assignment);
	const known = new Set(map.pages.map(({ number }) => number));
	const anew = [...new Set(placed.map(({ page }) => page))]
		.filter((page): page is number => page !== null && !known.has(page))
		.map((number): MapPage => ({ number, name: '', programs: [], assignments: [], windows: [] }));
	const pages = [...map.pages, ...anew]
		.map((page) =>
			page.like
				? page
				: {
						...page,
						assignments: [
							...page.assignments.filter(
								(each) => !planned(each) || inWindow(page, each.control, each.gesture)
							),
							...on(page.number)
						]
					}
		)
		// A page that was emptied, and is known by nothing else, goes.
		.filter(
			({ number, assignments, name, programs, like }) =>
				assignments.length > 0 || name !== '' || programs.length > 0 || like !== undefined || number === 1
		)
		.sort((a, b) => a.number - b.number);
	return [
		{ path: ['globals'], value: [...map.globals.filter((each) => !planned(each)), ...on(null)] },
		{ path: ['pages'], value: pages }
	];
}

/** An assignment on a control that it may not have been on before. */
function placedOn(map: ControlMap, control: SurfaceControl, { assignment, links }: Unit): Assignment {
	const gesture = gestureOf(control);
	const target = linked(map, links[0]).target;
	const was = assignment && map.surface.controls.find(({ id }) => id === assignment.control);
	const stays = assignment && was?.kind === control.kind && assignment.gesture === gesture;
	const way = stays ? assignment.way : wayFor(control, gesture, target);
	return {
		...(assignment ?? { empty: false, links, name: '', colour: '' }),
		control: control.id,
		gesture,
		way,
		...(way === 'relative' && !assignment?.encoding ? { encoding: 'twos-complement' as const } : {}),
		...(way === 'value' && assignment?.value === undefined && target
			? { value: target.default ?? target.low }
			: {})
	};
}
