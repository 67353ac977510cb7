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
/** After so many bytes, too: messages are short or long. */
const BYTES = 64 * 1024;

/** Says when it is time to pause, of work piece by piece. */
export class Pace {
	#pieces = 0;
	#bytes = 0;

	/** @param bytes of the piece that comes; nought for a small one */
	due(bytes = 0): boolean {
		this.#pieces++;
		this.#bytes += bytes;
		if (this.#pieces < PIECES && this.#bytes < BYTES) return false;
		[this.#pieces, this.#bytes] = [0, 0];
		return true;
	}
}
