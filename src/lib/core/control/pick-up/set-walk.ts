import { linked, toldKey, type Assignment, type ControlMap, type Told, type Window } from '../map';
import { pressesBetween } from '../surface';
import { viewsOf } from '../window-views';
import { moved } from './hand';

/** A touch of a song whose control stands elsewhere than the value that it takes hold of. */
export interface PickedUp {
	song: number;
	/** In the order of the song, from 0. */
	touch: number;
	page: number;
	control: string;
	told: Told;
	/** What the control moved last: the page, and its first target. Null where that was the same, and another control moved it since. */
	last: { page: number; told: Told } | null;
	/** A program change of the set moved its target since. */
	program: boolean;
}

/** A song: how many of its touches take hold of a control that stands, and which of these find it elsewhere. */
export interface SongPickUps {
	song: number;
	/** Touches of controls that stand somewhere by themselves. */
	touches: number;
	/** Of those, the first of the set: where these stand before it, nobody knows. */
	first: number;
	elsewhere: PickedUp[];
}

interface Seat {
	page: number;
	control: string;
	assignment: Assignment;
}

/** Where each target is moved by a control that stands somewhere. */
function seatsOf(map: ControlMap): Map<string, Seat[]> {
	const seats = new Map<string, Seat[]>();
	const add = (seat: Seat) => {
		for (const link of seat.assignment.links)
			seats.set(toldKey(link), [...(seats.get(toldKey(link)) ?? []), seat]);
	};
	for (const { number: page, windows } of map.pages)
		for (const control of map.surface.controls)
			for (const assignment of moved(map, page, control)) {
				add({ page, control: control.id, assignment });
				for (const told of laterOf(windows, assignment))
					add({
						page,
						control: control.id,
						assignment: { ...assignment, links: [{ ...assignment.links[0], ...told }] }
					});
			}
	return seats;
}

/** What a line tells in the later views of the windows that it is in. */
const laterOf = (windows: readonly Window[], { control, gesture }: Assignment): Told[] =>
	windows
		.filter((window) => window.gesture === gesture && window.controls.includes(control))
		.flatMap((window) =>
			viewsOf(window)
				.slice(1)
				.flatMap((view) => view[window.controls.indexOf(control)] ?? [])
		);

/** Who moved a target last, where it was no control: a program change moves everything on its channel. */
const PROGRAM = 'program change';

/** What a control moved last, and what was moved last by which control. */
interface Hands {
	at: Map<string, Seat>;
	by: Map<string, string>;
}

const copy = ({ at, by }: Hands): Hands => ({ at: new Map(at), by: new Map(by) });

const sameLinks = (a: Seat, b: Seat): boolean =>
	JSON.stringify(a.assignment.links) === JSON.stringify(b.assignment.links);

/** Moves what a seat moves. @returns how its control stood: as it should, where nobody knows, or elsewhere */
function take({ at, by }: Hands, seat: Seat): 'there' | 'first' | 'elsewhere' {
	const before = at.get(seat.control);
	const { links } = seat.assignment;
	const its = links.every((link) => by.get(toldKey(link)) === seat.control);
	at.set(seat.control, seat);
	for (const link of links) by.set(toldKey(link), seat.control);
	if (!before) return 'first';
	return its && sameLinks(before, seat) ? 'there' : 'elsewhere';
}

const isProgram = (map: ControlMap, told: Told): boolean =>
	linked(map, told).target?.address.kind === 'program-change';

/** Steps through a song from the page that shows. @returns the page that shows at its end */
function walkSong(
	map: ControlMap,
	seats: ReadonlyMap<string, Seat[]>,
	hands: Hands,
	touches: readonly Told[],
	from: number,
	each: (
		touch: number,
		seat: Seat,
		how: 'there' | 'first' | 'elsewhere',
		before: Seat | undefined,
		program: boolean
	) => void
): number {
	let page = from;
	const far = (to: number) => pressesBetween(map.surface.pages, page, to) ?? Infinity;
	touches.forEach((told, touch) => {
		if (isProgram(map, told)) {
			for (const { assignment } of [...seats.values()].flat())
				for (const link of assignment.links)
					if (link.channel === told.channel) hands.by.set(toldKey(link), PROGRAM);
			return;
		}
		const places = seats.get(toldKey(told)) ?? [];
		const seat = places.reduce<Seat | null>(
			(best, place) => (best === null || far(place.page) < far(best.page) ? place : best),
			null
		);
		if (!seat) return;
		page = seat.page;
		const before = hands.at.get(seat.control);
		const program = seat.assignment.links.some((link) => hands.by.get(toldKey(link)) === PROGRAM);
		each(touch, seat, take(hands, seat), before, program);
	});
	return page;
}

/**
 * What the set comes to: the songs in their order, each touch at the nearest page that has it, in whichever view of a window. A control stands elsewhere
 * where it moved something else since, or where another control or a program change of the set moved its target.
 */
export function pickUpsOf(map: ControlMap): SongPickUps[] {
	const seats = seatsOf(map);
	const hands: Hands = { at: new Map(), by: new Map() };
	let page = 1;
	return map.songs.map(({ touches }, song) => {
		const found: SongPickUps = { song, touches: 0, first: 0, elsewhere: [] };
		page = walkSong(map, seats, hands, touches, page, (touch, seat, how, before, program) => {
			found.touches++;
			if (how === 'first') found.first++;
			if (how !== 'elsewhere') return;
			const last =
				before && !sameLinks(before, seat) ? { page: before.page, told: before.assignment.links[0] } : null;
			found.elsewhere.push({
				song,
				touch,
				page: seat.page,
				control: seat.control,
				told: touches[touch],
				last,
				program: last === null && program
			});
		});
		return found;
	});
}

/** So many pages of a song are tried in every order. */
const MOST_PAGES = 7;

/** An order of a song's pages, each gone through once, in which fewer touches find their control elsewhere. */
export interface PageOrder {
	song: number;
	/** How many do so now. */
	now: number;
	pages: number[];
	then: number;
}

function* ordersOf(pages: readonly number[]): Generator<number[]> {
	if (pages.length < 2) yield [...pages];
	else
		for (const first of pages)
			for (const rest of ordersOf(pages.filter((page) => page !== first))) yield [first, ...rest];
}

/**
 * For each song, the order of its pages with the fewest touches that find their control elsewhere, if all that is touched on
 * a page is touched before the next one, and the songs before it are played as they are written. Every order is tried;
 * of equal ones the first by number is taken. Songs that gain nothing, that change programs, or have more than seven pages, are left out.
 */
export function betterOrders(map: ControlMap): PageOrder[] {
	const seats = seatsOf(map);
	const hands: Hands = { at: new Map(), by: new Map() };
	let page = 1;
	return map.songs.flatMap(({ touches }, song): PageOrder[] => {
		const before = copy(hands);
		let now = 0;
		const byPage = new Map<number, Seat[]>();
		page = walkSong(map, seats, hands, touches, page, (_, seat, how) => {
			if (how === 'elsewhere') now++;
			byPage.set(seat.page, [...(byPage.get(seat.page) ?? []), seat]);
		});
		const pages = [...byPage.keys()].sort((a, b) => a - b);
		if (touches.some((told) => isProgram(map, told))) return [];
		if (now === 0 || pages.length < 2 || pages.length > MOST_PAGES) return [];
		let best: { pages: number[]; then: number } | null = null;
		for (const order of ordersOf(pages)) {
			const trial = copy(before);
			const then = order
				.flatMap((number) => byPage.get(number)!)
				.filter((seat) => take(trial, seat) === 'elsewhere').length;
			if (best === null || then < best.then) best = { pages: order, then };
		}
		return best && best.then < now ? [{ song, now, ...best }] : [];
	});
}
