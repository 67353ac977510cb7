/** As much of a device or box as its place in a chain depends on. */
export interface Link {
	/** How many can hang on it. */
	thrus: number;
	/** Its cable comes from this very out today. */
	home: boolean;
	/** Right at the out it needs an adapter, unless it is at home there. */
	adapter: boolean;
	/** Which other link its cable comes from today, or -1. */
	feeder: number;
}

/** How links hang on an out. */
export interface Chain {
	/** How deep each hangs: 1 right at the out. */
	hops: number[];
	/** Who keeps the cable of today. */
	kept: boolean[];
	/** Cables that stay, less adapters. */
	saved: number;
}

/**
 * The chain that saves the most: one link at the out, on each hop as many as the hop before has thru sockets, at most
 * `depth` deep. What keeps its cable hangs right below what it comes from.
 * @returns `null` where they cannot all hang there
 */
export function bestChain(links: readonly Link[], depth: number): Chain | null {
	if (links.length === 0) return { hops: [], kept: [], saved: 0 };
	const widest = links.map((_, i) => i).sort((a, b) => links[b].thrus - links[a].thrus);
	const levels = new Levels(links, widest, depth);
	if (!levels.any(-1)) return null;
	let best: Chain | null = null;
	const first = links.map((_, i) => i).sort((a, b) => gain(links[b]) - gain(links[a]));
	for (const root of first) {
		const own = gain(links[root]);
		const able = first.filter((i) => i !== root && links[i].feeder >= 0);
		if (best && own + able.length <= best.saved) continue;
		if (!levels.any(root)) continue;
		for (const kept of subsets(able)) {
			if (best && own + kept.length <= best.saved) break;
			const hops = levels.of(root, kept);
			if (!hops) continue;
			best = {
				hops,
				saved: own + kept.length,
				kept: links.map(({ home }, i) => (i === root ? home : kept.includes(i)))
			};
			break;
		}
	}
	return best;
}

const gain = ({ home, adapter }: Link): number => (home ? 1 : adapter ? -1 : 0);

/** All choices among `list`, the largest first. */
function subsets(list: readonly number[]): number[][] {
	if (list.length === 0) return [[]];
	if (list.length === 1) return [[list[0]], []];
	return Array.from({ length: 1 << list.length }, (_, mask) => list.filter((_, n) => mask & (1 << n))).sort(
		(a, b) => b.length - a.length
	);
}

/** Finds a hop for every link. */
class Levels {
	/** Hop of each link; 0 for those that may be anywhere. */
	readonly #hop: number[];

	constructor(
		readonly links: readonly Link[],
		/** Links, those with the most thru sockets first. */
		readonly widest: readonly number[],
		readonly depth: number
	) {
		this.#hop = links.map(() => 0);
	}

	/** Whether there is room for all with one at the out (-1: any), if none need stay together. */
	any(root: number): boolean {
		this.#hop.fill(0);
		if (root >= 0) this.#hop[root] = 1;
		return this.#fill();
	}

	/** Hops with one at the out, and some right below what they hang on today; `null` where there are none. */
	of(root: number, kept: readonly number[]): number[] | null {
		const { links } = this;
		this.#hop.fill(0);
		/** For what is kept together: its first link, and how far each of it is below that. */
		const below = new Map<number, { link: number; by: number }[]>();
		const used = links.map(() => 0);
		for (const link of kept) {
			const { feeder } = links[link];
			if (++used[feeder] > links[feeder].thrus) return null;
			let [head, by] = [link, 0];
			while (kept.includes(head)) {
				head = links[head].feeder;
				// Kept in a ring, links hang on nobody.
				if (++by > links.length) return null;
			}
			below.set(head, [...(below.get(head) ?? []), { link, by }]);
		}
		const heads = [...below.keys()].filter((head) => head !== root);
		const put = (head: number, hop: number): boolean => {
			this.#hop[head] = hop;
			for (const { link, by } of below.get(head) ?? []) {
				if (hop + by > this.depth) return false;
				this.#hop[link] = hop + by;
			}
			return true;
		};
		const choose = (n: number): boolean => {
			if (n === heads.length) return this.#fill();
			for (let hop = 2; hop <= this.depth; hop++) if (put(heads[n], hop) && choose(n + 1)) return true;
			return false;
		};
		return put(root, 1) && choose(0) ? [...this.#hop] : null;
	}

	/**
	 * Whether all that may be anywhere find room beside those with a hop of their own, which they are then given: the
	 * widest first, as many on each hop as it can take, so that every hop below has the most sockets.
	 */
	#fill(): boolean {
		const { links, widest, depth } = this;
		const hops = this.#hop;
		const free: number[] = [];
		for (const i of widest) if (hops[i] === 0) free.push(i);
		let [sockets, next, fixed] = [1, 0, links.length - free.length];
		const placed: number[] = [];
		for (let hop = 1; hop <= depth && (next < free.length || fixed > 0); hop++) {
			let come = 0;
			for (let i = 0; i < hops.length; i++)
				if (hops[i] === hop) {
					sockets--;
					fixed--;
					come += links[i].thrus;
				}
			if (sockets < 0) return false;
			for (; sockets > 0 && next < free.length; sockets--) {
				come += links[free[next++]].thrus;
				placed.push(hop);
			}
			sockets = come;
		}
		if (next < free.length) return false;
		placed.forEach((hop, n) => (hops[free[n]] = hop));
		return true;
	}
}
