import type { ControlMap, MapPage, Told, Window } from './map';
import type { Gesture } from './surface';
import { toldWords } from './target-words';

/** What each control of a window tells in each of its views, the first one being where it stands by itself. Past the end, null. */
export function viewsOf({
	controls,
	over,
	step
}: Pick<Window, 'controls' | 'over' | 'step'>): (Told | null)[][] {
	const count = 1 + Math.max(0, Math.ceil((over.length - controls.length) / step));
	return Array.from({ length: count }, (_, view) => controls.map((__, i) => over[view * step + i] ?? null));
}

/** What a control tells in the views after the first one, in words; empty where it is in no window of the page. */
export function laterViews(map: ControlMap, page: MapPage, control: string, gesture: Gesture): string {
	const told = page.windows
		.filter((window) => window.gesture === gesture && window.controls.includes(control))
		.flatMap((window) => {
			const i = window.controls.indexOf(control);
			const [first, ...later] = viewsOf(window).flatMap((view) => view[i] ?? []);
			// Of the same on another channel, the channel says enough.
			return later.map((each) =>
				each.list === first.list && each.target === first.target ? `ch ${each.channel}` : toldWords(map, each)
			);
		});
	return told.length === 0 ? '' : `then ${told.join(', ')}`;
}

/** Whether a gesture of a control belongs to a window of the page: it is moved by it, or moves it. */
export const inWindow = ({ windows }: Pick<MapPage, 'windows'>, control: string, gesture: Gesture): boolean =>
	windows.some(
		(window) =>
			(window.gesture === gesture && window.controls.includes(control)) ||
			[window.next, window.back].some((button) => button?.control === control && button.gesture === gesture)
	);

/** Which windows of a page a control moves, in words: “moves Levels on”. */
export const movesWindow = (page: MapPage, control: string, gesture: Gesture): string =>
	page.windows
		.flatMap(({ name, next, back }) => [
			...(next.control === control && next.gesture === gesture ? [`moves ${name} on`] : []),
			...(back?.control === control && back.gesture === gesture ? [`moves ${name} back`] : [])
		])
		.join(', ');
