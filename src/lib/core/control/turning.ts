import type { Edit } from '../edit';
import { assignmentsOf, linked, type Assignment, type ControlMap } from './map';
import { COMFORT, hurts, oneForAll, sentRange, suits, turnsFor, type Suits } from './resolution';
import { controlName, type Gesture, type SurfaceControl } from './surface';
import type { Target } from '../profile';

/** An encoder on a page, and how far it turns what it tells. */
export interface TurnedLine {
	/** Where its assignment stands in the map. */
	path: (string | number)[];
	/** Null where it is the same on every page. */
	page: number | null;
	control: SurfaceControl;
	gesture: Gesture;
	target: Target;
	/** One less than the values of the musician's range. */
	steps: number;
	detents: number;
	/** What a notch counts at its quickest, as it is now. */
	now: number;
	/** What each setting that it offers comes to: worked out when it is looked at, step by step of the range. */
	readonly ways: Suits[];
	/** The setting that hurts least. */
	best: number;
}

/** Lines that turn an encoder, in the order of the map: of several targets the first. */
export function turnedLines(map: ControlMap): TurnedLine[] {
	const line = (page: number | null, assignment: Assignment, path: (string | number)[]): TurnedLine[] => {
		const control = map.surface.controls.find(({ id }) => id === assignment.control);
		const [link] = assignment.links;
		const target = link && linked(map, link).target;
		if (!control?.detents || !target || target.switch || !assignment.gesture.endsWith('move')) return [];
		const [low, high] = sentRange(target, link);
		if (low === high) return [];
		const { detents, accelerations } = control;
		return [
			{
				path,
				page,
				control,
				gesture: assignment.gesture,
				target,
				steps: high - low,
				detents,
				now: assignment.acceleration ?? 1,
				get ways() {
					return suits(target, link, detents, accelerations);
				},
				best: oneForAll([{ id: '', steps: high - low, detents }], accelerations).acceleration
			}
		];
	};
	return [
		...map.globals.flatMap((each, i) => line(null, each, ['globals', i])),
		...map.pages.flatMap(({ number, assignments }, p) =>
			assignments.flatMap((each, i) => line(number, each, ['pages', p, 'assignments', i]))
		)
	];
}

/** The one setting for all encoders of a map, and whom it does not suit. */
export interface SharedTurning {
	acceleration: number;
	suffers: { line: TurnedLine; turns: number; helps: string[] }[];
}

/** The setting that hurts least, where a surface has one for all its encoders; null where it has one for each, or none turns. */
export function sharedTurning(map: ControlMap): SharedTurning | null {
	if (!map.surface.oneAcceleration) return null;
	const lines = turnedLines(map);
	if (lines.length === 0) return null;
	const offered = lines[0].control.accelerations.filter((each) =>
		lines.every(({ control }) => control.accelerations.includes(each))
	);
	if (offered.length === 0) return null;
	const found = oneForAll(
		lines.map(({ steps, detents }, i) => ({ id: String(i), steps, detents })),
		offered
	);
	return {
		acceleration: found.acceleration,
		suffers: found.suffers.map(({ id }) => {
			const line = lines[Number(id)];
			return {
				line,
				turns: turnsFor(line.steps, line.detents, found.acceleration),
				helps: helpsFor(map, line, found.acceleration)
			};
		})
	};
}

/** What else would help an encoder that a setting does not suit. */
export function helpsFor(
	map: ControlMap,
	{ steps, detents, control, page }: TurnedLine,
	acceleration: number
): string[] {
	const { mostTurns, mostShare } = COMFORT;
	if (turnsFor(steps, detents, acceleration) > mostTurns)
		return [`a smaller range, of ${Math.floor(mostTurns * detents * acceleration)} steps at most`];
	if (acceleration / steps <= mostShare) return [];
	const taken = assignmentsOf({
		globals: map.globals,
		pages: map.pages.filter(({ number }) => page === null || number === page)
	});
	const free =
		control.gestures.includes('shift-move') &&
		!taken.some(({ control: id, gesture }) => id === control.id && gesture === 'shift-move');
	return [
		...(control.sends.some((kind) => kind === 'absolute-14' || kind === 'nrpn')
			? ['14 bits, which it can send']
			: []),
		...(free ? ['fine adjustment with shift: nothing is on that yet'] : []),
		...(acceleration === 1 ? [] : ['turning it slowly: a slow notch counts 1'])
	];
}

/** The edits that give lines what a notch of theirs counts at its quickest: one for all of them, or to each what suits it. */
export const turnTo = (lines: readonly TurnedLine[], acceleration: number | 'best'): Edit[] =>
	lines.flatMap(({ path, now, best }): Edit[] => {
		const value = acceleration === 'best' ? best : acceleration;
		return value === now ? [] : [{ path: [...path, 'acceleration'], value }];
	});

/** How much the present setting of a line hurts; nought where it is within comfort. */
export const hurtsNow = ({ steps, detents, now }: TurnedLine): number => hurts(steps, detents, now);

/** A line's encoder in words, with the gesture where it is another than turning. */
export const turnedName = (map: ControlMap, { control, gesture, page }: TurnedLine): string =>
	[
		page === null ? `every ${map.surface.pages.word}` : `${map.surface.pages.word} ${page}`,
		`${controlName(map.surface, control.id)}${gesture === 'move' ? '' : ' with shift'}`
	].join(', ');
