import { linked, type Assignment, type ControlMap, type Link } from '../map';
import { sentRange } from '../resolution';
import { BODY_KINDS, type Gesture, type SurfaceControl } from '../surface';

/** Whether a control stands somewhere by itself: it has end stops, and nothing that moves it but the hand. */
export const stands = ({ kind, shows }: Pick<SurfaceControl, 'kind' | 'shows'>): boolean =>
	BODY_KINDS[kind].position && !shows.includes('motor');

const MOVES: readonly Gesture[] = ['move', 'shift-move'];

/** What a control that stands somewhere moves on a page by telling its position: what is global, unless the page says otherwise. */
export function moved(map: ControlMap, page: number, control: SurfaceControl): Assignment[] {
	if (!stands(control)) return [];
	const own = (map.pages.find(({ number }) => number === page)?.assignments ?? []).filter(
		(assignment) => assignment.control === control.id
	);
	const globals = map.globals.filter(
		(assignment) =>
			assignment.control === control.id && own.every(({ gesture }) => gesture !== assignment.gesture)
	);
	return [...own, ...globals].filter(
		({ gesture, way, links }) => MOVES.includes(gesture) && way === 'absolute' && links.length > 0
	);
}

/** Share of the way that a link's curve makes of a share of the control's: `slow-start` its square, `slow-end` the same from the other end. */
const curved = (curve: Link['curve'], share: number): number =>
	curve === 'slow-start' ? share ** 2 : curve === 'slow-end' ? 1 - (1 - share) ** 2 : share;
const straight = (curve: Link['curve'], share: number): number =>
	curve === 'slow-start' ? Math.sqrt(share) : curve === 'slow-end' ? 1 - Math.sqrt(1 - share) : share;

const within = (share: number): number => Math.min(1, Math.max(0, share));

/** What a link tells its target where the control stands so far from its lower end (0–1); null without such a target. */
export function valueAtStand(map: ControlMap, link: Link, stand: number): number | null {
	const { target } = linked(map, link);
	if (!target) return null;
	const [low, high] = sentRange(target, link);
	return Math.round(low + curved(link.curve, link.inverted ? 1 - stand : stand) * (high - low));
}

/** Where the control would stand (0–1) to tell a value; at its end for what is beyond the link's range. Null without such a target. */
export function standFor(map: ControlMap, link: Link, value: number): number | null {
	const { target } = linked(map, link);
	if (!target) return null;
	const [low, high] = sentRange(target, link);
	const share = straight(link.curve, within(high === low ? 0 : (value - low) / (high - low)));
	return link.inverted ? 1 - share : share;
}
