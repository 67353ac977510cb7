import { Pace, type Steps } from '../core/steps';

/** How long work may keep other requests waiting before they are let in, in milliseconds. */
const TURN_MS = 10;

/**
 * Lets other requests in: what came in meanwhile is heard before it goes on.
 * Immediates come before anything is heard, so one alone would let nobody in where an answer has just been heard.
 */
export const letOthersIn = (): Promise<void> =>
	new Promise((resolve) => setImmediate(() => setImmediate(resolve)));

/** How long somebody has been working while others wait. */
export class Turn {
	#since = performance.now();

	get over(): boolean {
		return performance.now() - this.#since >= TURN_MS;
	}

	/** The next turn, after others had theirs. */
	async next(): Promise<void> {
		await letOthersIn();
		this.#since = performance.now();
	}
}

/** Carries out work that pauses now and then; other requests are answered in between. */
export async function inSteps<T>(work: Steps<T>): Promise<T> {
	const turn = new Turn();
	for (;;) {
		const step = work.next();
		if (step.done) return step.value;
		if (turn.over) await turn.next();
	}
}

/** What a function makes of each, with others let in now and then. */
export const eachInSteps = <T, R>(all: readonly T[], of: (each: T) => R): Promise<R[]> =>
	inSteps(
		(function* () {
			const made: R[] = [];
			const pace = new Pace();
			for (const each of all) {
				if (pace.due()) yield;
				made.push(of(each));
			}
			return made;
		})()
	);
