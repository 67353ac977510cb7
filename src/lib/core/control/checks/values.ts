import { sharedTurning, turnedLines, turnTo } from '../turning';
import { shownOf, valueFor, type Target } from '../../profile';
import { stepOf } from '../resolution';
import type { Edit } from '../../edit';
import type { Linked, MapRule, MapTrouble, Placed } from './check';

/** The ends of what a target shows, smaller first. */
export function shownRange(target: Target): [number, number] {
	const { scale, low, high } = target;
	if (scale?.kind === 'table') return [Math.min(...scale.shown), Math.max(...scale.shown)];
	const ends = [shownOf(target, low), shownOf(target, high)];
	return [Math.min(...ends), Math.max(...ends)];
}

const near = (value: number) => `${Number(value.toPrecision(4))}`;
export const inUnit = (value: number, { unit }: Pick<Target, 'unit'>): string =>
	unit ? `${near(value)} ${unit}` : near(value);

type Found = Omit<MapTrouble, 'rule'>;

/** A rule about each link whose target is known. */
const perLink = (
	id: string,
	find: (placed: Placed, linked: Linked & { target: Target }) => Found | null
): MapRule => ({
	id,
	find: ({ placed }) =>
		placed.flatMap((each) =>
			each.links.flatMap((linked) => {
				const found = linked.target ? find(each, linked as Linked & { target: Target }) : null;
				return found ? [found] : [];
			})
		)
});

export const valueRules: readonly MapRule[] = [
	perLink('relative-on-absolute', ({ assignment, words, path }, { target }) =>
		assignment.way === 'relative' && !target.relative
			? {
					severity: 'error',
					says: `${words} sends steps, and ${target.name} reads positions.`,
					at: path,
					cure: { says: 'Send positions.', edits: [{ path: [...path, 'way'], value: 'absolute' }] }
				}
			: null
	),
	perLink('absolute-on-relative', ({ assignment, words, path }, { target }) =>
		assignment.way === 'absolute' && target.relative
			? {
					severity: 'error',
					says: `${words} sends positions, and ${target.name} reads steps.`,
					at: path,
					cure: { says: 'Send steps.', edits: [{ path: [...path, 'way'], value: 'relative' }] }
				}
			: null
	),
	perLink('outside-the-range', ({ words }, { target, link, path }) => {
		const [low, high] = shownRange(target);
		const edits: Edit[] = (['from', 'to'] as const).flatMap((end) => {
			const value = link[end];
			return value === undefined || (value >= low && value <= high)
				? []
				: [{ path: [...path, end], value: value < low ? low : high }];
		});
		return edits.length === 0
			? null
			: {
					severity: 'error',
					says: `${words} asks ${target.name} for ${edits.map(({ path: to }) => inUnit(link[to.at(-1) as 'from' | 'to']!, target)).join(' and ')}; it goes from ${inUnit(low, target)} to ${inUnit(high, target)}.`,
					at: path,
					cure: { says: 'Keep to what it has.', edits }
				};
	}),
	perLink('toggle-where-held', ({ assignment, words, path }, { target }) =>
		assignment.way === 'toggle' && target.held
			? {
					severity: 'warning',
					says: `${words} switches ${target.name} on and leaves it on; it is meant to be held.`,
					at: path,
					cure: { says: 'Send while it is held.', edits: [{ path: [...path, 'way'], value: 'momentary' }] }
				}
			: null
	),
	perLink('value-not-stated', ({ assignment, words, path }, { target }) =>
		assignment.way === 'value' && assignment.value === undefined
			? {
					severity: 'error',
					says: `${words} sends one value of ${target.name}, and does not say which.`,
					at: path,
					cure: {
						says: 'Send what it is by itself.',
						edits: [
							{
								path: [...path, 'value'],
								value: shownOf(target, target.default ?? valueFor(target, 0))
							}
						]
					}
				}
			: null
	),
	{
		id: 'acceleration-not-offered',
		find: ({ placed }) =>
			placed.flatMap(({ assignment: { acceleration }, control, words, path }) => {
				if (acceleration === undefined || !control || control.accelerations.includes(acceleration)) return [];
				const nearest = [...control.accelerations].sort(
					(a, b) => Math.abs(a - acceleration) - Math.abs(b - acceleration)
				)[0];
				return [
					{
						severity: 'warning' as const,
						says: `${words} is to count ${acceleration} at its quickest; it offers ${control.accelerations.join(', ')}.`,
						at: path,
						cure: { says: `Count ${nearest}.`, edits: [{ path: [...path, 'acceleration'], value: nearest }] }
					}
				];
			})
	},
	{
		id: 'acceleration-for-all',
		find: ({ map }) => {
			const shared = sharedTurning(map);
			if (!shared) return [];
			const lines = turnedLines(map);
			const now = [...new Set(lines.map((line) => line.now))].sort((a, b) => a - b);
			if (now.length < 2) return [];
			return [
				{
					severity: 'warning' as const,
					says: `Encoders are to count ${now.join(' and ')} at their quickest; the ${map.surface.model} has one setting for all.`,
					at: ['pages'],
					cure: {
						says: `Have all count ${shared.acceleration}, which hurts least.`,
						edits: turnTo(lines, shared.acceleration)
					}
				}
			];
		}
	},
	{
		id: 'loud-step',
		find: ({ map, placed }) =>
			placed.flatMap(({ assignment, links, words }) =>
				links.flatMap(({ target, link, path }) => {
					if (!target?.level || target.switch || assignment.way === 'value') return [];
					const step = stepOf(target, link, assignment.acceleration ?? 1);
					if (step === null || step <= map.loudestStepDb) return [];
					return [
						{
							severity: 'warning' as const,
							says: `One step of ${words} moves ${target.name} by ${near(step)} dB at its coarsest; ${near(map.loudestStepDb)} dB is what this map calls loud. Turn down first.`,
							at: path,
							cure: { says: 'Give it a smaller range or a smaller acceleration.', edits: [] }
						}
					];
				})
			)
	}
];
