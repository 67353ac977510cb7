import { stands } from '../pick-up/hand';
import { viewsOf } from '../window-views';
import { asWindow, firstView } from '../windows';
import { controlName } from '../surface';
import type { ControlMap, MapPage, Window } from '../map';
import { jumpCure, pageWords, type MapRule, type MapTrouble } from './check';

type Found = Omit<MapTrouble, 'rule'>;

/** A rule about each window of each page. */
const perWindow = (
	id: string,
	find: (map: ControlMap, page: MapPage, window: Window, path: (string | number)[]) => Found[]
): MapRule => ({
	id,
	find: ({ map }) =>
		map.pages.flatMap((page, p) =>
			page.windows.flatMap((window, w) => find(map, page, window, ['pages', p, 'windows', w]))
		)
});

export const windowRules: readonly MapRule[] = [
	perWindow('window-apart', (map, page, window, path) => {
		const apart = window.controls.filter((_, i) => !asWindow(map, page, window, i));
		return apart.length === 0
			? []
			: [
					{
						severity: 'warning',
						says: `The window “${window.name}” of ${pageWords(map.surface, page)} begins otherwise than the lines of ${apart.map((id) => controlName(map.surface, id)).join(', ')} say.`,
						at: path,
						cure: { says: 'Write its first view on them.', edits: firstView(map, page.number, window) }
					}
				];
	}),
	perWindow('window-button', (map, page, window, path) =>
		[window.next, ...(window.back ? [window.back] : [])].flatMap(({ control, gesture }): Found[] => {
			const found = map.surface.controls.find(({ id }) => id === control);
			const name = controlName(map.surface, control);
			if (!found?.gestures.includes(gesture))
				return [
					{
						severity: 'error',
						says: `The window “${window.name}” is moved by ${name} (${gesture}), which the ${map.surface.model} has not.`,
						at: path,
						cure: { says: 'Take the window away; its lines stay.', edits: [{ path }] }
					}
				];
			const p = map.pages.indexOf(page);
			const at = page.assignments.findIndex((each) => each.control === control && each.gesture === gesture);
			return at < 0 || page.assignments[at].links.length === 0
				? []
				: [
						{
							severity: 'warning',
							says: `${name} moves the window “${window.name}” and tells something of its own.`,
							at: path,
							cure: {
								says: 'Have it move the window alone.',
								edits: [{ path: ['pages', p, 'assignments', at] }]
							}
						}
					];
		})
	),
	perWindow('window-for-nothing', (map, page, window, path) =>
		viewsOf(window).length > 1
			? []
			: [
					{
						severity: 'note',
						says: `The window “${window.name}” of ${pageWords(map.surface, page)} has one view: its controls reach all of it.`,
						at: path,
						cure: { says: 'Take the window away; its lines stay.', edits: [{ path }] }
					}
				]
	),
	perWindow('window-jumps', (map, page, window, path) => {
		const held = window.controls.filter((id) => {
			const control = map.surface.controls.find((each) => each.id === id);
			return control && stands(control);
		});
		if (map.pickUp !== 'jump' || held.length === 0 || viewsOf(window).length < 2) return [];
		return [
			{
				severity: 'warning',
				says: `Once the window “${window.name}” of ${pageWords(map.surface, page)} was moved, ${held.map((id) => controlName(map.surface, id)).join(', ')} can jump when touched.`,
				at: path,
				cure: jumpCure(map, page.number, 'Give the window to encoders, which stand nowhere.')
			}
		];
	})
];
