import type { Price, Pricer } from './price';

/** Devices by out: what is bettered. A device in no set is not placed. */
export type Assignment = number[][];

/** Goals of an assignment in their order. */
export const MEASURES = ['unplaced', 'crowded', 'moves', 'busiest', 'away', 'channels'] as const;
export type Measures = readonly number[];

const less = (a: Measures, b: Measures): boolean => {
	for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return a[i] < b[i];
	return false;
};

/** A repeatable sequence of numbers between 0 and 1 (a linear congruential generator; its quality is enough to shuffle). */
function sequence(seed: number): () => number {
	let state = seed >>> 0;
	return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
}

function sum(prices: readonly Price[], unplaced: number): Measures {
	let [crowded, moves, load, away, channels] = [0, 0, 0, 0, 0];
	for (const price of prices) {
		crowded += price.crowded;
		moves += price.moves;
		if (price.load > load) load = price.load;
		away += price.away;
		channels += price.channels;
	}
	return [unplaced, crowded, moves, load, away, channels];
}

export const measure = (pricer: Pricer, assignment: Assignment, wanted: number): Measures =>
	sum(
		assignment.map((set, out) => pricer.price(out, set)!),
		wanted - assignment.reduce((total, set) => total + set.filter((at) => !pricer.isBox(at)).length, 0)
	);

const inOrder = (set: number[]): number[] => set.sort((a, b) => a - b);

/** Whether a node may be on an out, beside what the price of the set says. */
export type Fits = (at: number, out: number) => boolean;

/** Boxes where they are; then gives each device in turn the out where it costs the least, the awkward ones first. */
export function firstAssignment(pricer: Pricer, wanted: readonly number[], fits: Fits): Assignment {
	const { devices, task } = pricer;
	const awkward = (i: number) => {
		const { lockOut, omni, tight, thrus, parts, bytesPerSecond } = devices[i];
		return (
			(lockOut ? 1e6 : 0) +
			(omni ? 1e5 : 0) +
			(tight ? 1e4 : 0) +
			(thrus.length === 0 ? 2e3 : 0) +
			parts * 100 +
			bytesPerSecond / 100
		);
	};
	const assignment: Assignment = task.outs.map((_, out) =>
		pricer.nodes
			.map((_, at) => at)
			.filter((at) => pricer.isBox(at) && pricer.homes[at] === out && pricer.price(out, [at]) !== null)
			.slice(0, 1)
	);
	for (const i of [...wanted].sort((a, b) => awkward(b) - awkward(a))) {
		let best: { out: number; cost: Measures } | null = null;
		assignment.forEach((set, out) => {
			const price = fits(i, out) ? pricer.price(out, inOrder([...set, i])) : null;
			if (!price) return;
			const before = pricer.price(out, set)!;
			const cost = [price.crowded - before.crowded, price.moves - before.moves, set.length, price.load];
			if (!best || less(cost, best.cost)) best = { out, cost };
		});
		if (best) {
			const { out } = best as { out: number };
			assignment[out] = inOrder([...assignment[out], i]);
		}
	}
	return assignment;
}

/** `set` without `gone` and with `come`, in order. */
function exchanged(set: readonly number[], gone: number, come: number): number[] {
	const next = set.filter((i) => i !== gone);
	if (come >= 0) next.push(come);
	return inOrder(next);
}

/** An assignment with the measures of its outs, changed a few outs at a time. */
class Walker {
	readonly onOut: number[][];
	readonly outOf: number[];
	readonly prices: Price[];
	now: number[];
	/** Outs of the change that is tried, their sets and prices. */
	#touched: number[] = [];
	#sets: number[][] = [];
	#tried: Price[] = [];

	constructor(
		readonly pricer: Pricer,
		start: Assignment,
		wanted: number,
		/** Loads up to this are as good as none. */
		readonly target = 0
	) {
		this.onOut = start.map((set) => inOrder([...set]));
		this.outOf = pricer.nodes.map(() => -1);
		this.onOut.forEach((set, out) => set.forEach((i) => (this.outOf[i] = out)));
		this.prices = this.onOut.map((set, out) => pricer.price(out, set)!);
		this.now = [...measure(pricer, this.onOut, wanted)];
		if (target > 0) this.now[3] = this.#excess();
	}

	/** Measures after a change; `null` when it breaks a rule. `moved`: device and the out it goes to (-1: none), no out twice. */
	try(moved: readonly (readonly [number, number])[]): number[] | null {
		const then = [...this.now];
		this.#touched = [];
		this.#sets = [];
		this.#tried = [];
		const leave = (out: number, gone: number, come: number): boolean => {
			const set = exchanged(this.onOut[out], gone, come);
			const price = this.pricer.price(out, set);
			if (!price) return false;
			const before = this.prices[out];
			then[1] += price.crowded - before.crowded;
			then[2] += price.moves - before.moves;
			then[4] += price.away - before.away;
			then[5] += price.channels - before.channels;
			this.#touched.push(out);
			this.#sets.push(set);
			this.#tried.push(price);
			return true;
		};
		const arrivals = new Map(moved.map(([i, to]) => [to, i]));
		for (const [i, to] of moved) {
			const from = this.outOf[i];
			// A box that takes no part is missed by nobody.
			const counts = this.pricer.isBox(i) ? 0 : 1;
			if (from < 0) then[0] -= counts;
			else if (!leave(from, i, arrivals.get(from) ?? -1)) return null;
			if (to < 0) then[0] += counts;
			else if (!moved.some(([other]) => this.outOf[other] === to) && !leave(to, -1, i)) return null;
		}
		then[3] = this.#excess();
		return then;
	}

	/** The largest load; with a target, all that is above it. */
	#excess(): number {
		let most = 0;
		let sum = 0;
		for (let out = 0; out < this.prices.length; out++) {
			const at = this.#touched.indexOf(out);
			const { load } = at < 0 ? this.prices[out] : this.#tried[at];
			if (load > most) most = load;
			if (load > this.target) sum += load - this.target;
		}
		return this.target > 0 ? sum : most;
	}

	take(moved: readonly (readonly [number, number])[], then: number[]): void {
		this.#touched.forEach((out, n) => {
			this.onOut[out] = this.#sets[n];
			this.prices[out] = this.#tried[n];
		});
		for (const [i, to] of moved) this.outOf[i] = to;
		this.now = then;
	}

	busiest(): number {
		let busiest = 0;
		for (let out = 1; out < this.prices.length; out++)
			if (this.prices[out].load > this.prices[busiest].load) busiest = out;
		return busiest;
	}
}

/**
 * Betters an assignment by moving, swapping and rotating devices between outs. It proves nothing: the solver does, and
 * does it quicker when it begins with a good plan.
 * @param at the measure to better (index in MEASURES); earlier ones never get worse, later ones count when it is even
 * @param notch how much of the measure counts as one
 * @param goal stop as soon as the measure is this small
 * @param target for the busiest out: what is to be reached; then the measure is all that is above it
 */
export function improve(
	pricer: Pricer,
	start: Assignment,
	wanted: readonly number[],
	{
		at,
		notch,
		goal,
		tries,
		target,
		fits
	}: { at: number; notch: number; goal: number; tries: number; target?: number; fits: Fits }
): Assignment {
	const walker = new Walker(pricer, start, wanted.length, target);
	let best: Measures = walker.now;
	let bestOnOut: Assignment = walker.onOut.map((set) => [...set]);
	const random = sequence(7 + at);
	const pick = (n: number) => Math.floor(random() * n);
	const boxes = pricer.nodes.map((_, i) => i).filter((i) => pricer.isBox(i));
	const movable = [...wanted, ...boxes];
	const takes = (then: Measures, heat: number): boolean => {
		for (let i = 0; i < at; i++) if (then[i] !== walker.now[i]) return then[i] < walker.now[i];
		const worse = (then[at] - walker.now[at]) / notch;
		return worse <= 0 || random() < Math.exp(-worse / (0.02 + heat * 0.5));
	};
	for (let turn = 0; turn < tries && wanted.length > 0 && best[at] > goal; turn++) {
		let a = movable[pick(movable.length)];
		if (MEASURES[at] === 'busiest' && turn % 2 === 0) {
			const set = walker.onOut[walker.busiest()];
			a = set[pick(set.length)] ?? a;
		}
		const from = walker.outOf[a];
		const kind = turn % 4;
		let moved: [number, number][];
		const instead = wanted[pick(wanted.length)];
		const box = pricer.isBox(a);
		if (box && (from < 0 || kind < 2)) {
			const to = from >= 0 && kind === 0 ? -1 : pick(walker.onOut.length);
			if (to === from) continue;
			moved = [[a, to]];
		} else if (from < 0 && kind > 0 && walker.outOf[instead] >= 0) {
			// Another device gives up its place: what could not be fitted in may be easier to fit in afterwards.
			moved = [
				[a, walker.outOf[instead]],
				[instead, -1]
			];
		} else if (from < 0 || kind === 0) {
			const to = pick(walker.onOut.length);
			if (to === from) continue;
			moved = [[a, to]];
		} else {
			const b = movable[pick(movable.length)];
			const toB = walker.outOf[b];
			if (toB < 0 || toB === from) continue;
			if (kind < 3)
				moved = [
					[a, toB],
					[b, from]
				];
			else {
				const c = movable[pick(movable.length)];
				const toC = walker.outOf[c];
				if (toC < 0 || toC === from || toC === toB) continue;
				moved = [
					[a, toB],
					[b, toC],
					[c, from]
				];
			}
		}
		const then = moved.every(([i, to]) => to < 0 || fits(i, to)) ? walker.try(moved) : null;
		if (!then || !takes(then, 1 - turn / tries)) continue;
		walker.take(moved, then);
		if (less(then, best)) {
			best = then;
			bestOnOut = walker.onOut.map((set) => [...set]);
		}
	}
	return bestOnOut;
}
