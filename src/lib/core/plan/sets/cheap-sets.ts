import { Meter, MOST_PARTS } from './meter';
import type { Price, Pricer } from './price';
import { reducedCost, type Rates } from './rates';
import { freshOut, type OutClass, type SetColumn } from './set-columns';

/** Only sets that cost no more than `reach` at these rates. */
export interface Limit {
	rates: Rates;
	reach: number;
}

export interface Wanted {
	/** Only sets whose reduced cost is below this. */
	below: number;
	/** So many of each class and home, the cheapest. */
	each: number;
	/** Sets with more load than this are of no use. */
	load: number;
	/**
	 * Leaves out sets that would be no dearer without one of their members: of what is cheap, the cheapest are found all
	 * the same.
	 */
	spare?: boolean;
	/** Further limits. */
	limits: readonly Limit[];
	/** Sets that may take part at all. */
	may?(column: SetColumn): boolean;
	/** Looked at now and then; what was found until then is given back, and is not all. */
	over?(): boolean;
	/** Stops as soon as there are more. */
	most?: number;
	/** Looks no further in each class and home than so many steps. */
	steps?: number;
}

export interface Found {
	columns: SetColumn[];
	/** The least reduced cost of each class. */
	least: number[];
	/** Whether there are no others below the limit (but for those that are dearer than `each` others of their kind). */
	all: boolean;
}

/**
 * The sets of devices and boxes whose reduced cost is below a limit, by branching: a branch is left as soon as what is in
 * it, with the best that could still join, cannot be cheap enough. What joins is counted at the least that it can cost.
 */
export function cheapSets(pricer: Pricer, classes: readonly OutClass[], rates: Rates, wanted: Wanted): Found {
	const columns: SetColumn[] = [];
	const least = classes.map(() => 0);
	let all = true;
	for (const [kind, { outs }] of classes.entries()) {
		const homes = pricer.homes.flatMap((out, at) => (outs.includes(out) ? [at] : []));
		// Tight devices are looked at once with others, and once with nothing but boxes.
		const alone = pricer.devices.flatMap(({ tight }, at) => (tight ? [at] : []));
		for (const [home, only] of [-1, ...homes].flatMap((home) => [-1, ...alone].map((only) => [home, only]))) {
			if (only >= 0 && home >= 0 && home !== only && !pricer.isBox(home)) continue;
			const found = new Search(pricer, rates, wanted, kind, outs, home, only).run();
			for (const { column, value } of found.best) {
				columns.push(column);
				if (value < least[kind]) least[kind] = value;
			}
			all &&= found.all;
			// A short look goes on with the next.
			if ((!all && wanted.steps === undefined) || columns.length > (wanted.most ?? Infinity))
				return { columns, least, all: false };
		}
	}
	return { columns, least, all };
}

/** A node that brings less than this brings nothing. */
export const NOTHING = 1e-9;
/** Steps between two looks at the clock. */
const STEPS = 1024;

/** What is known of a set that is being put together. */
interface Sum {
	/** What it costs at least by each meter, member by member. */
	cost: number[];
	/** What its channels cost beyond that. */
	extra: number[];
	load: number;
	parts: number;
	real: number;
	/** By each meter, what cables can save that go from members to those who may join, and the other way round. */
	feeding: number[];
	waiting: number[];
}

/**
 * Sets on the outs of one class: on any of them, or on the very one where `home` hangs today, with it, and it stays.
 * Of several devices, or of `only` one.
 */
class Search {
	readonly #best: { column: SetColumn; value: number }[] = [];
	#all = true;
	#steps = 0;
	/** The out that is asked for, as long as no member is at home there. */
	readonly #out: number;
	/** First that of the rates, then those of the limits. */
	readonly #meters: Meter[];
	/** What each meter has to stay below. */
	readonly #below: number[];
	/** Nodes that may join, those with several thru sockets first, each part by what they cost. */
	readonly #order: number[] = [];
	readonly #rank: Int32Array;
	readonly #wide: number;
	/** Thru sockets of the widest. */
	readonly #widest: number;
	/** What hangs on each node today. */
	readonly #fed: number[][];
	readonly #inside: Uint8Array;
	/** Nodes that bring nothing by themselves. */
	readonly #idle: boolean[];

	constructor(
		readonly pricer: Pricer,
		readonly rates: Rates,
		readonly wanted: Wanted,
		readonly kind: number,
		readonly outs: readonly number[],
		readonly home: number,
		readonly only: number
	) {
		const { nodes, homes, feeders } = pricer;
		this.#out = home < 0 ? outs[0] : homes[home];
		this.#meters = [rates, ...wanted.limits.map((limit) => limit.rates)].map(
			(at) => new Meter(pricer, at, this.#out, home, only < 0)
		);
		this.#below = [wanted.below, ...wanted.limits.map(({ reach }) => reach)];
		const [{ cost }] = this.#meters;
		this.#inside = new Uint8Array(nodes.length);
		this.#rank = new Int32Array(nodes.length).fill(-1);
		for (let at = 0; at < nodes.length; at++)
			if (
				at !== home &&
				(only < 0 || only === at || pricer.isBox(at)) &&
				cost[at] !== Infinity &&
				!(wanted.spare && this.#useless(at)) &&
				nodes[at].bytesPerSecond <= wanted.load + 1e-6
			)
				this.#order.push(at);
		const wide = (at: number) => (nodes[at].thrus.length > 1 ? 0 : 1);
		this.#order.sort((a, b) => wide(a) - wide(b) || cost[a] - cost[b]);
		this.#wide = this.#order.filter((at) => wide(at) === 0).length;
		this.#widest = Math.max(0, ...nodes.map(({ thrus }) => thrus.length));
		this.#order.forEach((at, rank) => (this.#rank[at] = rank));
		this.#idle = nodes.map((_, at) => this.#bringsNothing(at));
		this.#fed = nodes.map(() => []);
		feeders.forEach((feeder, at) => {
			if (feeder >= 0) this.#fed[feeder].push(at);
		});
		for (const meter of this.#meters) meter.count(this.#order, this.#wide);
	}

	/**
	 * Whether a set is no dearer without a node: it brings nothing by any meter, no cable of today is between it and another
	 * one, and what hangs on it can hang where it hung, right at the out without an adapter too.
	 */
	#useless(at: number): boolean {
		return this.pricer.degrees[at] === 0 && this.#bringsNothing(at);
	}

	#bringsNothing(at: number): boolean {
		return (
			this.pricer.nodes[at].thrus.length < 2 &&
			!this.pricer.adapters[this.#out] &&
			at !== this.only &&
			this.#meters.every(({ cost }) => cost[at] >= -NOTHING)
		);
	}

	/** Whether a node is only of use for a cable of today, and nobody at the other end is, or can still come to be, in the set. */
	#pointless(at: number): boolean {
		if (!this.wanted.spare || !this.#idle[at]) return false;
		const feeder = this.pricer.feeders[at];
		const there = (other: number) => this.#inside[other] === 1 || this.#rank[other] > this.#rank[at];
		return !(feeder >= 0 && there(feeder)) && !this.#fed[at].some(there);
	}

	run(): { best: { column: SetColumn; value: number }[]; all: boolean } {
		const { home } = this;
		const empty: Sum = {
			cost: this.#meters.map(({ fixed }) => fixed),
			extra: this.#meters.map(() => 0),
			load: 0,
			parts: 0,
			real: 0,
			feeding: this.#meters.map(() => 0),
			waiting: this.#meters.map(() => 0)
		};
		if (home < 0) this.#wides(0, [], empty);
		else if (this.#meters[0].cost[home] !== Infinity) {
			const first = this.#joined(empty, home);
			this.#inside[home] = 1;
			if (first && this.#take([home], first)) this.#wides(0, [home], first);
		}
		return { best: this.#best, all: this.#all };
	}

	/** Chooses among those with several thru sockets; then as many of all others as have room. */
	#wides(from: number, set: readonly number[], sum: Sum): void {
		const thrusOf = (at: number) => this.pricer.nodes[at].thrus.length;
		const thrus = set.filter((at) => at !== this.home).map(thrusOf);
		const room = this.#room(thrus);
		if (room < 0) return;
		this.#narrow(this.#wide, set, sum, room);
		for (let n = from; n < this.#wide && !this.#stopped(); n++) {
			const with1 = [...thrus, thrusOf(this.#order[n])];
			// So many more, of the widest there are, with the cheapest that then have room.
			const rooms: number[] = [];
			for (let many = 0; n + many < this.#wide; many++) {
				const most = this.#room([...with1, ...Array<number>(many).fill(this.#widest)]);
				if (most < 0) break;
				rooms.push(most);
			}
			if (rooms.length === 0) continue;
			const gain = this.#meters.map((meter) =>
				Math.min(
					...rooms.map(
						(most, many) =>
							meter.wideGain(n + 1, n + 1 + many) + meter.narrowGain(this.#wide, most, this.#spare(sum))
					)
				)
			);
			const joining = Math.max(...rooms.map((most, many) => most + many));
			this.#add(n, set, sum, gain, joining, (members, next) => this.#wides(n + 1, members, next));
		}
	}

	#narrow(from: number, set: readonly number[], sum: Sum, room: number): void {
		const [meter] = this.#meters;
		for (let n = from; room > 0 && n < this.#order.length && !this.#stopped(); n++) {
			// They stand in the order of what they cost: what comes later brings no more.
			const more =
				meter.narrowGain(n, room, this.#spare(sum)) - this.#stay(0, n, room, sum.feeding[0], sum.waiting[0]);
			if (sum.cost[0] + sum.extra[0] + more >= this.#below[0]) return;
			this.#add(n, set, sum, null, room - 1, (members, next) => this.#narrow(n + 1, members, next, room - 1));
		}
	}

	/**
	 * Goes on with one more in a set, if what may still join could make it cheap enough.
	 * @param gain what those who may join after it bring at most by each meter, but for cables that stay; `null` where
	 * only narrow ones may
	 * @param many so many may join
	 */
	#add(
		n: number,
		set: readonly number[],
		sum: Sum,
		gain: readonly number[] | null,
		many: number,
		go: (members: number[], next: Sum) => void
	): void {
		const at = this.#order[n];
		if (this.#pointless(at)) return;
		const spare = this.#spare(sum) - this.pricer.nodes[at].bytesPerSecond;
		const next = this.#joined(sum, at, (m, cost, feeding, waiting) => {
			const more = gain ? gain[m] : this.#meters[m].narrowGain(n + 1, many, spare);
			return cost + sum.extra[m] + more - this.#stay(m, n + 1, many, feeding, waiting) < this.#below[m];
		});
		if (!next) return;
		const members = insert(set, at);
		this.#inside[at] = 1;
		if (this.#take(members, next) && this.#promising(next, gain, n + 1, many)) go(members, next);
		this.#inside[at] = 0;
	}

	#promising(sum: Sum, gain: readonly number[] | null, from: number, many: number): boolean {
		for (let m = 0; m < this.#below.length; m++) {
			const more = gain ? gain[m] : this.#meters[m].narrowGain(from, many, this.#spare(sum));
			const stay = this.#stay(m, from, many, sum.feeding[m], sum.waiting[m]);
			if (sum.cost[m] + sum.extra[m] + more - stay >= this.#below[m]) return false;
		}
		return true;
	}

	/** Load that may still join. */
	#spare({ load }: Sum): number {
		return Math.min(this.wanted.load, this.pricer.task.capacity) - load + 1e-6;
	}

	/** What cables that stay can save at most when so many join from one on. */
	#stay(m: number, from: number, many: number, feeding: number, waiting: number): number {
		if (many <= 0) return 0;
		const meter = this.#meters[m];
		// Each that joins keeps one cable: from a member, or from another that joins. Members may keep theirs from it.
		const joining = feeding + meter.pairGain(from, this.pricer.pairsOf(many));
		return Math.min(meter.rates.moves * many, joining) + waiting;
	}

	/**
	 * What a set costs at least with one more; `null` where it would be too much for the out.
	 * @param worth by each meter: whether it is worth it, at that cost
	 */
	#joined(
		sum: Sum,
		at: number,
		worth?: (m: number, cost: number, feeding: number, waiting: number) => boolean
	): Sum | null {
		const { pricer, wanted } = this;
		const node = pricer.nodes[at];
		const one = pricer.isBox(at) ? 0 : 1;
		const load = sum.load + node.bytesPerSecond;
		const parts = sum.parts + one * node.parts;
		if (load > wanted.load + 1e-6 || load > pricer.task.capacity + 1e-9 || parts > MOST_PARTS) return null;
		// Cables stay between it and what it hangs on today, or what hangs on it.
		const feeder = pricer.feeders[at];
		const hangs = feeder >= 0 && this.#inside[feeder] === 1;
		let inside = 0;
		for (const fed of this.#fed[at]) inside += this.#inside[fed];
		const stay = (hangs ? 1 : 0) + Math.min(inside, node.thrus.length);
		const waits = feeder >= 0 && this.#rank[feeder] > this.#rank[at];
		const cost: number[] = [];
		const feeding: number[] = [];
		const waiting: number[] = [];
		for (let m = 0; m < this.#meters.length; m++) {
			const meter = this.#meters[m];
			cost.push(sum.cost[m] + meter.cost[at] - meter.rates.moves * stay);
			feeding.push(sum.feeding[m] + meter.later[at] - (hangs ? meter.saves[at] : 0));
			waiting.push(sum.waiting[m] - inside * meter.saves[at] + (waits ? meter.saves[feeder] : 0));
			if (worth && !worth(m, cost[m], feeding[m], waiting[m])) return null;
		}
		return { cost, extra: [...sum.extra], load, parts, real: sum.real + one, feeding, waiting };
	}

	/** Keeps a set if it is cheap enough, and counts what its channels cost. @returns whether more may join it */
	#take(set: readonly number[], sum: Sum): boolean {
		const { pricer, rates } = this;
		if (sum.real > 1 && set.some((at) => !pricer.isBox(at) && pricer.nodes[at].omni)) return false;
		const given = pricer.given(this.#out, set);
		if (!given) return false;
		this.#meters.forEach((meter, m) => {
			sum.extra[m] = Math.max(sum.extra[m], meter.extra(set, sum.parts, given.changed));
		});
		// What costs too much by itself is not asked for its price.
		if (this.#meters.some((_, m) => sum.cost[m] + sum.extra[m] >= this.#below[m])) return true;
		const out = this.home >= 0 ? this.#out : (this.#fresh(set) ?? this.outs[0]);
		const price = pricer.price(out, set);
		if (price) {
			const value = reducedCost(rates, out, set, price);
			if (value < this.#below[0]) this.#keep(set, price, value);
		}
		return true;
	}

	#keep(set: readonly number[], price: Price, value: number): void {
		const out = this.home >= 0 ? this.#out : this.#fresh(set) === undefined ? this.outs[0] : -1;
		const column = { devices: [...set], out, kind: this.kind, price };
		const { each, most = Infinity, may } = this.wanted;
		if (may && !may(column)) return;
		this.#best.push({ column, value });
		if (this.#best.length > most) this.#all = false;
		if (this.#best.length <= each) return;
		this.#best.sort((a, b) => a.value - b.value);
		this.#best.pop();
		this.#below[0] = this.#best.at(-1)!.value;
	}

	/** An out of the class where no member is at home. */
	#fresh(set: readonly number[]): number | undefined {
		return freshOut(this.pricer, this, set);
	}

	#stopped(): boolean {
		this.#steps++;
		if (this.#steps > (this.wanted.steps ?? Infinity)) this.#all = false;
		else if (this.#steps % STEPS === 0 && this.wanted.over?.()) this.#all = false;
		return !this.#all;
	}

	/** How many with one thru socket can hang on an out together with these; -1 where these cannot. */
	#room(thrus: readonly number[]): number {
		const wide = thrus.filter((many) => many > 1).sort((a, b) => b - a);
		let [sockets, narrow] = [1, 0];
		// What is at home stays right at the out: elsewhere it is as if it were not.
		if (this.home >= 0) sockets = this.pricer.nodes[this.home].thrus.length;
		for (let hop = this.home < 0 ? 0 : 1; hop < this.pricer.depth; hop++) {
			const here = wide.splice(0, sockets);
			narrow += sockets - here.length;
			sockets = here.reduce((sum, many) => sum + many, sockets - here.length);
		}
		return wide.length > 0 ? -1 : narrow - (thrus.length - thrus.filter((many) => many > 1).length);
	}
}

const insert = (set: readonly number[], at: number): number[] => {
	const next = [...set];
	let n = next.length;
	while (n > 0 && next[n - 1] > at) n--;
	next.splice(n, 0, at);
	return next;
};
