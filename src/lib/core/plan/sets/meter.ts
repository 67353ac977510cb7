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
	readonly #channelCost: Float64Array;
	readonly #leastSum: Float64Array;
	/** Over an order of the nodes: sums of what is cheaper than nothing. */
	#gains = new Float64Array(1);
	/** The same for those from each place on, by how many: of those on one channel today only one keeps it. */
	#apart: Float64Array[] = [];
	#narrow = 0;

	/** @param home the node that stays right at the out, or -1 */
	constructor(
		readonly pricer: Pricer,
		readonly rates: Rates,
		readonly out: number,
		home: number
	) {
		const { nodes, task } = pricer;
		const { off, place } = task.outs[out];
		this.fixed = (off ? rates.moves : 0) - rates.outs[out];
		this.cost = new Float64Array(nodes.length).fill(Infinity);
		this.#channelCost = new Float64Array(nodes.length);
		this.#leastSum = new Float64Array(nodes.length);
		for (let at = 0; at < nodes.length; at++) {
			const { present, place: own } = nodes[at];
			if (!pricer.allowed(at, out)) continue;
			let cost = (present.player === null ? 0 : rates.moves) + (at === home ? 0 : rates.moves);
			if (!pricer.isBox(at)) {
				const { today, leastSum, leastOther } = pricer.choice(at, out);
				if (leastSum === Infinity) continue;
				this.#leastSum[at] = leastSum;
				this.#channelCost[at] = Math.min(
					today ? rates.channels * today.sum : Infinity,
					leastOther === Infinity ? Infinity : rates.moves + rates.channels * leastOther
				);
				cost += this.#channelCost[at];
				if (own && place && own !== place) cost += rates.away;
			}
			this.cost[at] = cost - rates.nodes[at];
		}
	}

	/** Counts what nodes bring in an order: the wide ones, then from `narrow` on all others. */
	count(order: readonly number[], narrow: number): void {
		this.#narrow = narrow;
		this.#gains = new Float64Array(narrow + 1);
		for (let n = 0; n < narrow; n++) this.#gains[n + 1] = this.#gains[n] + Math.min(0, this.cost[order[n]]);
		/** For each of today's channels, the least that another one costs more. */
		const changing = new Map<number, number>();
		const todayOf = (at: number) => this.pricer.choice(at, this.out).today?.channels[0] ?? 0;
		const rest = order.slice(narrow);
		for (const at of rest)
			changing.set(todayOf(at), Math.min(changing.get(todayOf(at)) ?? Infinity, this.#changing(at)));
		this.#apart = [new Float64Array(1)];
		/** The cheapest of each of today's channels, and all that the others bring. */
		const first = new Map<number, number>();
		const others: number[] = [];
		for (const at of rest.toReversed()) {
			const today = todayOf(at);
			const cost = Math.min(0, this.cost[at]);
			if (today === 0) others.push(cost);
			else {
				const before = first.get(today);
				first.set(today, Math.min(cost, before ?? 0));
				if (before !== undefined) others.push(Math.max(cost, before) + changing.get(today)!);
			}
			const values = [...others, ...first.values()].filter((value) => value < 0).sort((a, b) => a - b);
			const sums = new Float64Array(Math.min(values.length, MOST_PARTS) + 1);
			for (let n = 1; n < sums.length; n++) sums[n] = sums[n - 1] + values[n - 1];
			this.#apart.unshift(sums);
		}
	}

	/** What it costs more at least if a node does not keep today's channels. */
	#changing(at: number): number {
		const { leastOther } = this.pricer.choice(at, this.out);
		if (leastOther === Infinity) return Infinity;
		return this.rates.moves + this.rates.channels * leastOther - this.#channelCost[at];
	}

	/** What wide nodes in a range of the order bring together, of those that bring anything. */
	wideGain(from: number, to: number): number {
		return this.#gains[Math.min(this.#narrow, to)] - this.#gains[Math.min(this.#narrow, from)];
	}

	/** What so many of the narrow nodes from one on bring at most. */
	narrowGain(from: number, many: number): number {
		const sums = this.#apart[from - this.#narrow];
		return sums[Math.min(sums.length - 1, many)];
	}

	/** What the channels of a set cost beyond what its members cost by themselves: none has one twice. */
	extra(set: readonly number[], parts: number, changed: number): number {
		let [counted, least] = [0, 0];
		for (const at of set) {
			counted += this.#channelCost[at];
			least += this.#leastSum[at];
		}
		const sum = Math.max(least, (parts * (parts + 1)) / 2);
		return Math.max(0, this.rates.moves * changed + this.rates.channels * sum - counted);
	}
}
