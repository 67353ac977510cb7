/** A message that passed a port. */
export interface Passed {
	/** Counts from 1 since the page was opened. */
	number: number;
	/** Milliseconds since the page was opened. */
	atMs: number;
	port: string;
	way: 'sent' | 'received';
	bytes: Uint8Array;
}

const LIMIT = 100_000;

/**
 * Everything that passed the ports of this tab, newest last; the oldest is forgotten beyond a hundred thousand.
 * Messages are noted at once and shown by a counter that moves with the screen, so that no flood can hold the page up.
 */
class Traffic {
	/** Moves when something was noted; what draws reads this. */
	tick = $state(0);
	readonly #passed: Passed[] = [];
	#from = 0;
	#number = 0;
	#due = false;
	readonly #watchers = new Set<(passed: Passed) => void>();

	note(port: string, way: Passed['way'], bytes: Uint8Array, atMs = performance.now()): void {
		const passed: Passed = { number: ++this.#number, atMs, port, way, bytes };
		this.#passed.push(passed);
		// Forgetting in large steps: moving the whole list for each message would cost more than the message.
		if (this.#passed.length - this.#from > LIMIT) this.#from += 1000;
		if (this.#from > LIMIT) {
			this.#passed.splice(0, this.#from);
			this.#from = 0;
		}
		for (const watcher of this.#watchers) watcher(passed);
		if (this.#due) return;
		this.#due = true;
		requestAnimationFrame(() => {
			this.#due = false;
			this.tick++;
		});
	}

	/** Told of each message as it passes. */
	watch(watcher: (passed: Passed) => void): () => void {
		this.#watchers.add(watcher);
		return () => this.#watchers.delete(watcher);
	}

	/** What is remembered, oldest first. */
	all(): Passed[] {
		return this.#from === 0 ? this.#passed : this.#passed.slice(this.#from);
	}

	clear(): void {
		this.#passed.length = 0;
		this.#from = 0;
		this.tick++;
	}
}

export const traffic = new Traffic();
