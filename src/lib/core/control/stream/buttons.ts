import type { Value } from './series';

/** Nobody presses a button twice within this time without meaning to. */
const TAP_MS = 140;
/** Longer presses are told from switching by their number alone. */
const PRESS_MS = 300;
const MANY = 4;
/** Presses that say nothing of their release come at this pace at most. */
const TICK_MS = 120;

export interface Button {
	kind: 'momentary' | 'toggle';
	/** What would tell, where the presses do not. */
	doubt: string | null;
}

/**
 * Whether a button with two values sends one when it is pressed and the other when it is let go of (momentary), or one
 * with each press (toggle). That is seen by the times alone: how long it is down differs from how long it is not. Its
 * first value is that of a press, whichever of the two that is.
 */
export function buttonOf(values: readonly Value[]): Button {
	const pressed = values[0].value;
	const spans = values
		.slice(1)
		.map(({ atMs }, i) => ({ down: values[i].value === pressed, ms: atMs - values[i].atMs }));
	const down = spans.filter((span) => span.down).map(({ ms }) => ms);
	const up = spans.filter((span) => !span.down).map(({ ms }) => ms);
	const again = 'Press it twice, shortly, and let go of it each time.';
	if (down.length === 0) return { kind: 'momentary', doubt: again };
	const longest = Math.max(...down);
	const shorter = up.length > 0 && longest < Math.min(...up) * 0.6;
	const short = longest <= TAP_MS || (shorter && (longest <= PRESS_MS || down.length >= MANY));
	// What is momentary ends with a release, unless it is still held.
	const released = values.at(-1)!.value !== pressed;
	if (short) return { kind: 'momentary', doubt: released ? null : again };
	return { kind: 'toggle', doubt: released || up.length === 0 ? again : null };
}

/** Whether the same value again and again is rather a button that says each press than an encoder that is turned. */
export const pressedSlowly = (values: readonly Value[]): boolean =>
	values.slice(1).every(({ atMs }, i) => atMs - values[i].atMs > TICK_MS);
