import type { Response } from './floor';

/** A curve’s exponent for a slow start; a fast one is its mirror. */
const SLOW = 2;

/**
 * The share of the range at a share of the travel, both 0–1: even is a line; a slow start is the square; a fast start its
 * mirror, 1 − (1 − x)²; own points are joined by lines, from nought at the heel to all at the toe.
 */
export function shareAt(response: Response, travel: number): number {
	if (response.shape === 'even') return travel;
	if (response.shape === 'slow start') return travel ** SLOW;
	if (response.shape === 'fast start') return 1 - (1 - travel) ** SLOW;
	if (response.shape !== 'own points') return travel;
	const points = [[0, 0], ...[...response.points].sort(([a], [b]) => a - b), [1, 1]] as [number, number][];
	const after = points.findIndex(([x], i) => i > 0 && travel <= x);
	if (after < 0) return points.at(-1)![1];
	const [[x0, y0], [x1, y1]] = [points[after - 1], points[after]];
	return x1 === x0 ? y1 : y0 + ((y1 - y0) * (travel - x0)) / (x1 - x0);
}

/** The value in the target’s own unit. `travel`: 0 heel – 1 toe. */
export const valueInUnit = (
	{ least, most, response }: { least: number; most: number; response: Response },
	travel: number
): number => least + (most - least) * shareAt(response, travel);

/**
 * How far apart two values lie that the pedal can tell from one another, at most: the largest step in the target’s unit.
 * `steps`: usable steps between the dead zones.
 */
export function coarsest(
	reading: { least: number; most: number; response: Response },
	steps: number
): number | null {
	if (steps < 1) return null;
	let widest = 0;
	for (let step = 0; step < steps; step++)
		widest = Math.max(
			widest,
			Math.abs(valueInUnit(reading, (step + 1) / steps) - valueInUnit(reading, step / steps))
		);
	return widest;
}
