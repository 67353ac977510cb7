import type { Link } from './map';
import { shownOf, valueFor, type Target } from '../profile';

/** The values that are sent for a link's range, smaller first. */
export function sentRange(target: Target, { from, to }: Pick<Link, 'from' | 'to'>): [number, number] {
	const ends = [
		from === undefined ? target.low : valueFor(target, from),
		to === undefined ? target.high : valueFor(target, to)
	];
	return [Math.min(...ends), Math.max(...ends)];
}

/**
 * How far what is shown moves at one step of so many values, where it moves farthest.
 * @returns in the target's own unit; null where the range is a single value
 */
export function stepOf(target: Target, link: Pick<Link, 'from' | 'to'>, stride = 1): number | null {
	const [low, high] = sentRange(target, link);
	if (low === high) return null;
	let widest = 0;
	const by = Math.max(1, Math.round(stride));
	for (let value = low; value < high; value++)
		widest = Math.max(widest, Math.abs(shownOf(target, Math.min(high, value + by)) - shownOf(target, value)));
	return widest;
}

/**
 * How many turns an encoder needs from one end of a range to the other: steps ÷ (notches a turn × acceleration).
 * @param steps one less than the values in the range
 */
export const turnsFor = (steps: number, detents: number, acceleration: number): number =>
	steps / (detents * acceleration);

/** How one setting suits a control. */
export interface Suits {
	acceleration: number;
	turns: number;
	/** In the target's own unit, at a slow notch, which counts 1. */
	fine: number;
	/** The same at its quickest. */
	coarse: number;
}

/** What an encoder with so many notches makes of a target's range, for each acceleration that it offers. */
export function suits(
	target: Target,
	link: Pick<Link, 'from' | 'to'>,
	detents: number,
	accelerations: readonly number[]
): Suits[] {
	const [low, high] = sentRange(target, link);
	return accelerations.map((acceleration) => ({
		acceleration,
		turns: turnsFor(high - low, detents, acceleration),
		fine: stepOf(target, link) ?? 0,
		coarse: stepOf(target, link, acceleration) ?? 0
	}));
}

/** What the hand likes: a whole range in about so many turns. */
export interface Comfort {
	mostTurns: number;
	/** A notch at its quickest should not pass over more than this share of the range. */
	mostShare: number;
}
export const COMFORT: Comfort = { mostTurns: 4, mostShare: 0.05 };

/** How much a setting hurts: nought where turns and steps are within comfort, else by how many times they are not, summed. */
export function hurts(
	steps: number,
	detents: number,
	acceleration: number,
	{ mostTurns, mostShare }: Comfort = COMFORT
) {
	const turns = turnsFor(steps, detents, acceleration) / mostTurns;
	const share = Math.min(1, acceleration / Math.max(1, steps)) / mostShare;
	return Math.max(0, turns - 1) + Math.max(0, share - 1);
}

/**
 * The acceleration that hurts least where one setting is for all.
 * @param all for each control, the steps of its range
 * @returns the setting, what it hurts in all, and who suffers how much, worst first; of equal settings the smallest
 */
export function oneForAll(
	all: readonly { id: string; steps: number; detents: number }[],
	accelerations: readonly number[],
	comfort: Comfort = COMFORT
): { acceleration: number; hurts: number; suffers: { id: string; hurts: number }[] } {
	const ways = [...accelerations]
		.sort((a, b) => a - b)
		.map((acceleration) => {
			const each = all.map(({ id, steps, detents }) => ({
				id,
				hurts: hurts(steps, detents, acceleration, comfort)
			}));
			return {
				acceleration,
				hurts: each.reduce((sum, one) => sum + one.hurts, 0),
				suffers: each.filter((one) => one.hurts > 0).sort((a, b) => b.hurts - a.hurts)
			};
		});
	return ways.reduce((best, way) => (way.hurts < best.hurts - 1e-9 ? way : best));
}

/** A measure in three figures; a part of one in two. */
export const figure = (value: number): string => String(Number(value.toPrecision(value < 1 ? 2 : 3)));

/** How fine and how far a control moves a target, in words: its step in the target's unit, and the turns of its range. */
export function resolutionWords(
	target: Target,
	link: Pick<Link, 'from' | 'to'>,
	{ detents }: { detents?: number },
	acceleration = 1
): string {
	const step = stepOf(target, link);
	if (step === null || target.switch) return '';
	const unit = target.unit ? ` ${target.unit}` : '';
	const [low, high] = sentRange(target, link);
	const turns = detents ? turnsFor(high - low, detents, acceleration) : null;
	return `One step is ${figure(step)}${unit} at most${turns === null ? '' : `; all of it is ${figure(turns)} turns`}.`;
}
