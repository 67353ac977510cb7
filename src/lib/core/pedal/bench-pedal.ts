import { trackAt } from './circuit';
import type { PotPart } from './floor';
import type { Heard } from './calibrate';

const TOP = 127;

/** A pedal that is not there, with what years under a foot have done to it. */
export interface BenchPedal {
	pot: Pick<PotPart, 'heel' | 'toe' | 'taper'>;
	/** What it reads at both ends of its track, as shares of the box’s supply. */
	reads: readonly [number, number];
	/** How far a reading wanders to each side, in values. */
	noise: number;
	/** Stretches of its way, 0–1, on which the wiper touches nothing: the reading drops to nought. */
	holes: readonly (readonly [number, number])[];
}

/** What a pedal reads at a place of its way, before noise; in values, not rounded. */
export function benchLevel({ pot, reads, holes }: BenchPedal, travel: number): number {
	if (holes.some(([from, to]) => travel > from && travel < to)) return 0;
	const track = trackAt(pot, travel);
	return (reads[0] + (reads[1] - reads[0]) * track) * TOP;
}

/** What a box makes of it: a whole number from 0 to 127. `chance`: 0–1. */
export const benchValue = (pedal: BenchPedal, travel: number, chance: number): number =>
	Math.min(TOP, Math.max(0, Math.round(benchLevel(pedal, travel) + (chance * 2 - 1) * pedal.noise)));

/** Where the foot is, and for how long it takes to get there. */
export interface FootMove {
	to: number;
	overMs: number;
}

/** A heel that rests, a slow way to the toe, a rest, and back. */
export const FULL_TRAVEL: readonly FootMove[] = [
	{ to: 0, overMs: 1300 },
	{ to: 1, overMs: 1600 },
	{ to: 1, overMs: 1300 },
	{ to: 0, overMs: 1600 },
	{ to: 0, overMs: 1300 }
];

/**
 * What a box says while a foot moves: it looks at the pedal every few milliseconds and speaks where the value is another.
 * @param random 0–1, anew at each call
 * @returns the stream, and when the foot stopped
 */
export function playFoot(
	pedal: BenchPedal,
	moves: readonly FootMove[],
	random: () => number,
	everyMs = 8
): { heard: Heard[]; untilMs: number } {
	const heard: Heard[] = [];
	let [atMs, from] = [0, moves[0].to];
	for (const { to, overMs } of moves) {
		for (let passed = 0; passed < overMs; passed += everyMs) {
			const value = benchValue(pedal, from + ((to - from) * passed) / overMs, random());
			if (value !== heard.at(-1)?.value) heard.push({ atMs: atMs + passed, value });
		}
		atMs += overMs;
		from = to;
	}
	return { heard, untilMs: atMs };
}
