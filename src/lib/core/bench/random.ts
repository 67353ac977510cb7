/** A number in [0, 1). Randomness is always a parameter, so that a run can be repeated. */
export type Random = () => number;

/** Mulberry32: small, seeded, good enough for faults and made-up sounds. */
export function seededRandom(seed: number): Random {
	let state = seed >>> 0;
	return () => {
		state = (state + 0x6d2b79f5) >>> 0;
		let t = state;
		t = Math.imul(t ^ (t >>> 15), t | 1);
		t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}

export const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];

/** A whole number from `low` to `high`, both included. */
export const between = (random: Random, low: number, high: number): number =>
	low + Math.floor(random() * (high - low + 1));
