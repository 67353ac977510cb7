import { browser } from '$app/environment';

const TICK_MS = 15_000;

/** The time as pages show it: it moves, so that “a minute ago” does not stay one. */
class WallClock {
	now = $state(Date.now());

	constructor() {
		if (browser) setInterval(() => (this.now = Date.now()), TICK_MS);
	}
}

export const wallClock = new WallClock();
