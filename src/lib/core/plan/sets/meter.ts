import type { Pricer } from './price';
import type { Rates } from './rates';

/** Parts that can share an out. */
export const MOST_PARTS = 16;

/** What sets on an out cost at some rates at least, member by member, and what others can still bring. */
export class Meter {
	/** Of an out that is used, whatever is on it. */
	readonly fixed: number;
	/** Of each node by itself, without cables that stay; infinite where it cannot be there. */
	readonly cost: Float64Array;
	/** Of that, what its channels cost at least; and the least sum of them. */
	readonly channelCost: Float64Array;
	readonly leastSum: Float64Array;
	/** Over an order of the nodes: sums of what is cheaper than nothing. */
	#gains = new Float64Array(1);
	/** The same for those from each place on, by how many: of those on one channel today only one keeps it. */
	#tables: { toll: number; apart: Float64Array[] }[] = [];
	#narrow = 0;
	/** By node, what a cable that stays saves at most when it joins for it, beyond what it costs itself. */
	readonly saves: Float64Array;
	/** By node, what those save so that hang on it today and come later in the order. */
	readonly later: Float64Array;
	/** What pairs that hang together today save at most from each place on, by how many. */
	#pairs: Float64Array[] = [];

	/**
	 * @param home the node that stays right at the out, or -1
	 * @param company whether a device shares the out with others: then one with tight timing is crowded
	 */
	constructor(
		readonly pricer: Pricer,
		readonly rates: Rates,
		readonly out: number,
		home: number,
		company: boolean
	) {
		const { nodes, task } = pricer;
		const { off, place } = task.outs[out];
		this.fixed = (off ? rates.moves : 0) - rates.outs[out];
		this.cost = new Float64Array(nodes.length).fill(Infinity);
		this.saves = new Float64Array(nodes.length);
		this.later = new Float64Array(nodes.length);
		this.channelCost = new Float64Array(nodes.length);
		this.leastSum = new Float64Array(nodes.length);
		for (let at = 0; at < nodes.length; at++) {
			const { present, place: own, tight } = nodes[at];
			if (!pricer.allowed(at, out)) continue;
			let cost = (present.player === null ? 0 : rates.moves) + (at === home ? 0 : rates.moves);
			if (!pricer.isBox(at)) {
				const { today, leastSum, leastOther } = pricer.choice(at, out);
				if (leastSum === Infinity) continue;
				this.leastSum[at] = leastSum;
				this.channelCost[at] = Math.min(
					today ? rates.channels * today.sum : Infinity,
					leastOther === Infinity ? Infinity : rates.moves + rates.channels * leastOther
				);
				cost += this.channelCost[at];
				if (own && place && own !== place) cost += rates.away;
				if (tight && company) cost += rates.crowded;
			}
			this.cost[at] = cost - rates.worth[out][at];
			this.saves[at] = Math.max(0, rates.moves - this.#share(at));
		}
	}

	/** What a node costs by itself without its channels. */
	plain(at: number): number {
		return this.cost[at] - this.channelCost[at];
	}

	/** Counts what nodes bring in an order: the wide ones, then from `narrow` on all others. */
	count(order: readonly number[], narrow: number): void {
		this.#countPairs(order);
		this.#narrow = narrow;
		this.#gains = new Float64Array(narrow + 1);
		for (let n = 0; n < narrow; n++) this.#gains[n + 1] = this.#gains[n] + Math.min(0, this.cost[order[n]]);
		/** For each of today's channels, the least that another one costs more. */
		const changing = new Map<number, number>();
		const todayOf = (at: number) => this.pricer.choice(at, this.out).today?.channels[0] ?? 0;
		const rest = order.slice(narrow);
		for (const at of rest)
			changing.set(todayOf(at), Math.min(changing.get(todayOf(at)) ?? Infinity, this.#changing(at)));
		const typical = typicalRatio(rest.map((at) => [this.cost[at], this.pricer.nodes[at].bytesPerSecond]));
		this.#tables = [0, typical / 2, typical].map((toll) => ({
			toll,
			apart: this.#gainsApart(rest, changing, todayOf, toll)
		}));
	}

	/** Gains of nodes from each place on, by how many, each paying a toll for its load. */
	#gainsApart(
		rest: readonly number[],
		changing: ReadonlyMap<number, number>,
		todayOf: (at: number) => number,
		toll: number
	): Float64Array[] {
		const apart: Float64Array[] = Array(rest.length + 1);
		let sums = new Float64Array(1);
		apart[rest.length] = sums;
		/** What the nodes bring, the most first: the cheapest of each of today's channels, and all others. */
		const values: number[] = [];
		const first = new Map<number, number>();
		for (let n = rest.length - 1; n >= 0; n--) {
			const at = rest[n];
			const today = todayOf(at);
			const cost = Math.min(0, this.cost[at] + toll * this.pricer.nodes[at].bytesPerSecond);
			let changed = false;
			if (today === 0) changed = insert(values, cost);
			else {
				const before = first.get(today);
				const least = Math.min(cost, before ?? 0);
				if (before === undefined) changed = insert(values, cost);
				else {
					if (least < before) {
						if (before < 0) values.splice(values.indexOf(before), 1);
						changed = insert(values, least);
					}
					changed = insert(values, Math.max(cost, before) + changing.get(today)!) || changed;
				}
				first.set(today, least);
			}
			if (changed) {
				sums = new Float64Array(Math.min(values.length, MOST_PARTS) + 1);
				for (let many = 1; many < sums.length; many++) sums[many] = sums[many - 1] + values[many - 1];
			}
			apart[n] = sums;
		}
		return apart;
	}

	#countPairs(order: readonly number[]): void {
		const { feeders, degrees } = this.pricer;
		const rank = new Map(order.map((at, n) => [at, n]));
		feeders.forEach((feeder, at) => {
			const n = rank.get(at);
			if (feeder >= 0 && n !== undefined && n > (rank.get(feeder) ?? -1))
				this.later[feeder] += this.saves[at];
		});
		const pairs = order.flatMap((at, n) => {
			const other = rank.get(feeders[at]);
			if (other === undefined) return [];
			let saved = this.rates.moves - this.#share(at) - this.#share(feeders[at]);
			// On one channel today, one of them changes: that is counted here where it is not where they bring something.
			if (this.cost[at] >= 0 && this.cost[feeders[at]] >= 0 && this.#clash(at, feeders[at]))
				saved -=
					Math.min(this.#changing(at), this.#changing(feeders[at])) /
					Math.max(degrees[at], degrees[feeders[at]]);
			return saved > 0 ? [{ first: Math.min(n, other), saved }] : [];
		});
		pairs.sort((a, b) => b.saved - a.saved);
		this.#pairs = Array.from({ length: order.length + 1 }, (_, from) => {
			const sums = [0];
			for (const { first, saved } of pairs) if (first >= from) sums.push(sums.at(-1)! + saved);
			return Float64Array.from(sums);
		});
	}

	#clash(a: number, b: number): boolean {
		if (this.pricer.isBox(a) || this.pricer.isBox(b)) return false;
		const [first, second] = [a, b].map((at) => this.pricer.choice(at, this.out).today?.mask ?? 0);
		return (first & second) !== 0;
	}

	/** What it costs more at least if a node does not keep today's channels. */
	#changing(at: number): number {
		const { leastOther } = this.pricer.choice(at, this.out);
		if (leastOther === Infinity) return Infinity;
		return this.rates.moves + this.rates.channels * leastOther - this.channelCost[at];
	}

	/** What wide nodes in a range of the order bring together, of those that bring anything. */
	wideGain(from: number, to: number): number {
		return this.#gains[Math.min(this.#narrow, to)] - this.#gains[Math.min(this.#narrow, from)];
	}

	/** What so many of the narrow nodes from one on bring at most, where there is so much load to spare. */
	narrowGain(from: number, many: number, spare: number): number {
		let most = -Infinity;
		for (const { toll, apart } of this.#tables) {
			// Whoever joins pays for its load, and gets back at most what there is to spare.
			if (toll > 0 && spare === Infinity) break;
			const sums = apart[from - this.#narrow];
			const gain = sums[Math.min(sums.length - 1, many)] - toll * (toll > 0 ? spare : 0);
			if (gain > most) most = gain;
		}
		return Math.min(0, most);
	}

	/** What so many pairs save at most that join together, both from one place of the order on. */
	pairGain(from: number, many: number): number {
		const sums = this.#pairs[Math.min(from, this.#pairs.length - 1)];
		return sums[Math.min(many, sums.length - 1)];
	}

	/** What a node costs is shared by the pairs of today that it is in. */
	#share(at: number): number {
		return Math.max(0, this.cost[at]) / Math.max(1, this.pricer.degrees[at]);
	}

	/**
	 * What the channels of a set cost at least beyond what they cost member by member: none has one twice.
	 * @param counted what they cost member by member
	 * @param least sum of the least sums of its members
	 * @param changed members that do not keep today's channels, at least
	 */
	extra(counted: number, least: number, parts: number, changed: number): number {
		if (this.pricer.studioWide) return 0;
		const sum = Math.max(least, (parts * (parts + 1)) / 2);
		return Math.max(0, this.rates.moves * changed + this.rates.channels * sum - counted);
	}
}

/** Puts what is less than nothing among others, the least first. @returns whether it is */
function insert(values: number[], value: number): boolean {
	if (!(value < 0)) return false;
	let at = values.length;
	while (at > 0 && values[at - 1] > value) at--;
	values.splice(at, 0, value);
	return true;
}

/** What those that bring anything typically bring for their load. */
function typicalRatio(nodes: readonly (readonly [number, number])[]): number {
	const ratios = nodes
		.filter(([cost, load]) => cost < 0 && load > 0)
		.map(([cost, load]) => -cost / load)
		.sort((a, b) => a - b);
	return ratios.length === 0 ? 0 : ratios[ratios.length >> 1];
}
