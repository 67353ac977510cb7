import { PIECES, type Steps } from '../core/steps';

/** How long work may keep other requests waiting before they are let in, in milliseconds. */
const TURN_MS = 10;

/** Lets other requests in. */
export const letOthersIn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Carries out work that pauses now and then; other requests are answered in between. */
export async function inSteps<T>(work: Steps<T>): Promise<T> {
	let since = performance.now();
	for (;;) {
		const step = work.next();
		if (step.done) return step.value;
		if (performance.now() - since < TURN_MS) continue;
		await letOthersIn();
		since = performance.now();
	}
}

/** What a function makes of each, with others let in now and then. */
export const eachInSteps = <T, R>(all: readonly T[], of: (each: T) => R): Promise<R[]> =>
	inSteps(
		(function* () {
			const made: R[] = [];
			for (const [i, each] of all.entries()) {
				if (i % PIECES === 0) yield;
				made.push(of(each));
			}
			return made;
		})()
	);
