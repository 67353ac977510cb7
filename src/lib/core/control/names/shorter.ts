export interface ShortName {
	name: string;
	cost: number;
}

interface State {
	at: number;
	/** What is kept so far. */
	kept: string;
	cost: number;
	/** The least that can still come. */
	least: number;
}

/** A queue that gives the cheapest first; of equals the one whose name comes first, so that answers repeat. */
class Queue {
	readonly #heap: State[] = [];
	get size() {
		return this.#heap.length;
	}
	#before(a: State, b: State): boolean {
		const [x, y] = [a.cost + a.least, b.cost + b.least];
		return x !== y ? x < y : a.kept !== b.kept ? a.kept < b.kept : a.at > b.at;
	}
	push(state: State) {
		const heap = this.#heap;
		let i = heap.push(state) - 1;
		while (i > 0) {
			const parent = (i - 1) >> 1;
			if (!this.#before(heap[i], heap[parent])) break;
			[heap[i], heap[parent]] = [heap[parent], heap[i]];
			i = parent;
		}
	}
	pop(): State {
		const heap = this.#heap;
		const top = heap[0];
		const last = heap.pop()!;
		if (heap.length > 0) {
			heap[0] = last;
			for (let i = 0; ;) {
				let least = i;
				for (const child of [2 * i + 1, 2 * i + 2])
					if (child < heap.length && this.#before(heap[child], heap[least])) least = child;
				if (least === i) break;
				[heap[i], heap[least]] = [heap[least], heap[i]];
				i = least;
			}
		}
		return top;
	}
}

/** The least that leaving out can cost from each place on, with each number of characters that may still be kept. */
function leastFrom(costs: readonly number[], room: number): number[][] {
	const least = [new Array<number>(room + 1).fill(0)];
	for (let at = costs.length - 1; at >= 0; at--) {
		const [after] = least;
		least.unshift(
			after.map((cost, left) => Math.min(cost + costs[at], left > 0 ? after[left - 1] : Infinity))
		);
	}
	return least;
}

/**
 * The cheapest ways to shorten a name by leaving characters out, cheapest first, no two alike in the eye (capitals and
 * small letters count as the same). A name may be kept whole.
 * @param costs what leaving out each character costs
 * @param room at most so many characters stay
 */
export function* shorter(name: string, costs: readonly number[], room: number): Generator<ShortName> {
	const characters = [...name];
	const least = leastFrom(costs, room);
	const queue = new Queue();
	const reached = new Set<string>();
	const given = new Set<string>();
	const push = (at: number, kept: string, cost: number) => {
		const key = `${at} ${kept}`;
		const rest = least[at][room - kept.length];
		if (rest === Infinity || cost === Infinity || reached.has(key)) return;
		queue.push({ at, kept, cost, least: rest });
	};
	push(0, '', 0);
	while (queue.size > 0) {
		const { at, kept, cost } = queue.pop();
		const key = `${at} ${kept}`;
		if (reached.has(key)) continue;
		reached.add(key);
		if (at === characters.length) {
			const seen = sameInTheEye(kept);
			if (kept === '' || kept.endsWith(' ') || given.has(seen)) continue;
			given.add(seen);
			yield { name: kept, cost };
			continue;
		}
		// A short name does not begin with a space, and has no two in a row.
		if (kept.length < room && !(characters[at] === ' ' && (kept === '' || kept.endsWith(' '))))
			push(at + 1, kept + characters[at], cost);
		push(at + 1, kept, cost + costs[at]);
	}
}

/** What two names have in common that nobody tells apart on a display. */
export const sameInTheEye = (name: string): string => name.toLowerCase();

/** The first so many of what comes in order. */
export function first<T>(most: number, source: Iterable<T>): T[] {
	const out: T[] = [];
	for (const each of source) {
		out.push(each);
		if (out.length >= most) break;
	}
	return out;
}

/**
 * The same with a digit at the end that the name has not, for names that would otherwise be another's: the cheapest.
 * @param mark what the digit 2 costs; each one above it costs 1 more
 */
export function marked(
	name: string,
	costs: readonly number[],
	room: number,
	mark: number,
	most: number
): ShortName[] {
	if (room < 2) return [];
	return first(most, shorter(name, costs, room - 1))
		.flatMap(({ name: short, cost }) =>
			[2, 3, 4, 5, 6, 7, 8, 9].map((digit) => ({
				name: `${short}${digit}`,
				cost: cost + mark + digit - 2
			}))
		)
		.sort((a, b) => a.cost - b.cost)
		.slice(0, most);
}
