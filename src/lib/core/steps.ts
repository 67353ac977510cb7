/**
 * Work that pauses now and then, so that whoever carries it out may do something else in between; what it comes to is
 * what it returns.
 */
export type Steps<T> = Generator<void, T>;

/** Carries such work out without a pause. */
export function finished<T>(work: Steps<T>): T {
	for (;;) {
		const step = work.next();
		if (step.done) return step.value;
	}
}

/** After so many small pieces of work it is time to pause. */
export const PIECES = 500;
