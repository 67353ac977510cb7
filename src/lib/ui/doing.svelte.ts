import { problemOf } from './words';

/** Something that a page does: whether it is under way, and what went wrong the last time. */
export class Doing {
	busy = $state(false);
	/** Shown until it is done again. */
	problem = $state.raw<{ message: string; remedy: string } | null>(null);
	/** No state: it is begun from effects, too, which must not wait for its end. */
	#running = 0;

	/** Does it; what goes wrong stands in `problem`. @returns whether it worked */
	run = async (work: () => Promise<unknown>): Promise<boolean> => {
		this.#running++;
		this.busy = true;
		this.problem = null;
		try {
			await work();
			return true;
		} catch (error) {
			this.problem = problemOf(error);
			return false;
		} finally {
			this.busy = --this.#running > 0;
		}
	};
}
