/** Time as the engine sees it. Real time, or a virtual clock that runs as fast as the machine can. */
export interface Clock {
	/** Milliseconds from an arbitrary start. */
	now(): number;
	/** Calls `action` once, `ms` from now; the answer takes it back. */
	after(ms: number, action: () => void): () => void;
}

interface Due {
	at: number;
	order: number;
	action: (() => void) | null;
}

/** A clock that stands still until it is told to run. Equal times run in the order in which they were asked for. */
export class VirtualClock implements Clock {
	#now = 0;
	#order = 0;
	/** Binary heap, earliest first. */
	readonly #heap: Due[] = [];

	now(): number {
		return this.#now;
	}

	after(ms: number, action: () => void): () => void {
		const due: Due = { at: this.#now + Math.max(0, ms), order: this.#order++, action };
		this.#push(due);
		return () => {
			due.action = null;
		};
	}

	/** Runs everything that is due up to `until`, then stands there. */
	runUntil(until: number): void {
		while (this.#heap.length > 0 && this.#heap[0].at <= until) this.#step();
		this.#now = Math.max(this.#now, until);
	}

	/** Runs until nothing is due or `stop` says so. */
	run(stop: () => boolean = () => false): void {
		while (this.#heap.length > 0 && !stop()) this.#step();
	}

	#step(): void {
		const due = this.#pop();
		this.#now = Math.max(this.#now, due.at);
		due.action?.();
	}

	#before(a: Due, b: Due): boolean {
		return a.at < b.at || (a.at === b.at && a.order < b.order);
	}

	#push(due: Due): void {
		const heap = this.#heap;
		let i = heap.push(due) - 1;
		while (i > 0) {
			const parent = (i - 1) >> 1;
			if (!this.#before(heap[i], heap[parent])) break;
			[heap[i], heap[parent]] = [heap[parent], heap[i]];
			i = parent;
		}
	}

	#pop(): Due {
		const heap = this.#heap;
		const top = heap[0];
		const last = heap.pop()!;
		if (heap.length > 0) {
			heap[0] = last;
			let i = 0;
			for (;;) {
				const left = 2 * i + 1;
				let least = i;
				if (left < heap.length && this.#before(heap[left], heap[least])) least = left;
				if (left + 1 < heap.length && this.#before(heap[left + 1], heap[least])) least = left + 1;
				if (least === i) break;
				[heap[i], heap[least]] = [heap[least], heap[i]];
				i = least;
			}
		}
		return top;
	}
}
