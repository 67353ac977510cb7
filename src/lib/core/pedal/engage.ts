import type { Reading } from './floor';

/** Where a pedal stood from some time on, 0 heel – 1 toe. */
export interface Stood {
	atMs: number;
	travel: number;
}

/** An effect that engages by itself, and when. */
export interface Engaged {
	fromMs: number;
	/** Null where it is still engaged at the end. */
	toMs: number | null;
}

/**
 * When an effect is engaged that goes on as its pedal is moved and off as it rests: it engages once the pedal was above the
 * threshold for the wait, and lets go once it was at or below it for the release.
 * @param stood in the order of time
 */
export function engagedTimes(
	engages: NonNullable<Reading['engages']>,
	stood: readonly Stood[],
	untilMs: number
): Engaged[] {
	const times: Engaged[] = [];
	let on: number | null = null;
	/** Since when it is on the other side of the threshold than the effect is. */
	let since: number | null = null;
	const settle = (nowMs: number) => {
		if (since === null) return;
		const due = since + (on === null ? engages.waitMs : engages.releaseMs);
		if (due > nowMs) return;
		if (on === null) on = due;
		else {
			times.push({ fromMs: on, toMs: due });
			on = null;
		}
		since = null;
	};
	for (const { atMs, travel } of stood) {
		settle(atMs);
		const above = travel > engages.above;
		if (above === (on !== null)) since = null;
		else since ??= atMs;
	}
	settle(untilMs);
	if (on !== null) times.push({ fromMs: on, toMs: null });
	return times;
}
