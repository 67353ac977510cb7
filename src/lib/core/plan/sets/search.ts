import { Meter, MOST_PARTS } from './meter';
import type { Price, Pricer } from './price';
import { reducedCost, type Rates } from './rates';
import { freshOut, type SetColumn } from './set-columns';
import { standIns } from './stand-ins';
import type { Start } from './starts';
import { NOTHING, type Wanted } from './wanted';

/** Steps between two looks at the clock. */
const STEPS = 1024;

/** What is known of a set that is being put together. Arrays are by meter. */
class Frame {
	/** What it costs at least, member by member. */
	readonly cost: Float64Array;
	/** What its channels cost at least beyond that. */
	readonly extra: Float64Array;
	/** What they cost member by member, and the least sums of them. */
	readonly counted: Float64Array;
	least = 0;
	/** Of those that are on one channel today all but one change: a bit for each such channel, and how many do at least. */
	shared = 0;
	changed = 0;
	load = 0;
	parts = 0;
	real = 0;
	/** Whether one of its devices answers to every channel. */
	omni = false;

	constructor(meters: number) {
		this.cost = new Float64Array(meters);
		this.extra = new Float64Array(meters);
		this.counted = new Float64Array(meters);
	}
}

/**
 * Sets on the outs of one class: on any of them, or on the very one where `home` hangs today, with it, and it stays.
 * Of several devices, or of `only` one; with `must` in them, if there is such a node.
 */
export class Search {
	readonly home: number;
	readonly only: number;
	/** The node that is in all sets, or -1. */
	readonly #first: number;
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
	/** Members in the order in which they joined, and what is known of the set of the first so many. */
	readonly #members: number[] = [];
	readonly #frames: Frame[] = [];
	/** Nodes that bring nothing by themselves. */
	readonly #idle: boolean[];
	/** By node, those that are to be in a set before it is, where only the cheapest sets are asked for. */
	readonly #before: readonly number[][] | null;

	constructor(
		readonly pricer: Pricer,
		readonly rates: Rates,
		readonly wanted: Wanted,
		readonly kind: number,
		readonly outs: readonly number[],
		{ home, must, only, without = [] }: Start,
		/** Whether another search has found something. */
		readonly found: boolean
	) {
		const { nodes, homes, feeders } = pricer;
		this.home = home;
		this.only = only;
		this.#first = home >= 0 ? home : must;
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
				at !== this.#first &&
				(only < 0 || only === at || pricer.isBox(at)) &&
				!without.includes(at) &&
				cost[at] !== Infinity &&
				!(wanted.spare && this.#useless(at)) &&
				nodes[at].bytesPerSecond <= wanted.load + 1e-6
			)
				this.#order.push(at);
		const wide = (at: number) => (nodes[at].thrus.length > 1 ? 0 : 1);
		this.#order.sort(
			(a, b) =>
				wide(a) - wide(b) ||
				rounded(cost[a]) - rounded(cost[b]) ||
				nodes[a].bytesPerSecond - nodes[b].bytesPerSecond
		);
		this.#wide = this.#order.filter((at) => wide(at) === 0).length;
		this.#widest = Math.max(0, ...nodes.map(({ thrus }) => thrus.length));
		this.#order.forEach((at, rank) => (this.#rank[at] = rank));
		this.#idle = nodes.map((_, at) => this.#bringsNothing(at));
		this.#fed = nodes.map(() => []);
		feeders.forEach((feeder, at) => {
			if (feeder >= 0) this.#fed[feeder].push(at);
		});
		for (const meter of this.#meters) meter.count(this.#order, this.#wide);
		this.#before = wanted.thorough ? standIns(pricer, this.#out, this.#meters, this.#order) : null;
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
		return this.wanted.spare === true && this.#idle[at] && !this.#linked(at);
	}

	/** Whether another one, which is not in the set, could stand in for a node. */
	#replaceable(at: number): boolean {
		if (!this.#before) return false;
		for (const other of this.#before[at]) if (this.#inside[other] === 0) return !this.#linked(at);
		return false;
	}

	/** Whether somebody at the other end of a cable of today is in the set, or can still come to be. */
	#linked(at: number): boolean {
		if (this.pricer.degrees[at] === 0) return false;
		const feeder = this.pricer.feeders[at];
		if (feeder >= 0 && this.#comes(feeder, at)) return true;
		for (const other of this.#fed[at]) if (this.#comes(other, at)) return true;
		return false;
	}

	/** Whether a node is in the set, or comes later in the order than another. */
	#comes(other: number, at: number): boolean {
		return this.#inside[other] === 1 || this.#rank[other] > this.#rank[at];
	}

	run(): { best: { column: SetColumn; value: number }[]; all: boolean } {
		const first = this.#first;
		const empty = this.#frame(0);
		this.#meters.forEach(({ fixed }, m) => (empty.cost[m] = fixed));
		if (first >= 0) {
			if (this.#meters[0].cost[first] === Infinity) return { best: [], all: true };
			this.#push(first);
		}
		if (first < 0 || (this.#join(first) && this.#take())) this.#wides(0);
		return { best: this.#best, all: this.#all };
	}

	#frame(many: number): Frame {
		while (this.#frames.length <= many) this.#frames.push(new Frame(this.#meters.length));
		return this.#frames[many];
	}

	/** Chooses among those with several thru sockets; then as many of all others as have room. */
	#wides(from: number): void {
		const { nodes } = this.pricer;
		const thrus = this.#members.flatMap((at) => (at === this.home ? [] : [nodes[at].thrus.length]));
		const room = this.#room(thrus);
		if (room < 0) return;
		this.#narrow(this.#wide, room);
		const spare = this.#spare(this.#frame(this.#members.length));
		/** By thru sockets of the next: room for narrow ones with it and so many more of the widest there are. */
		const roomsOf = new Map<number, number[]>();
		for (let n = from; n < this.#wide && !this.#stopped(); n++) {
			const at = this.#order[n];
			if (this.#pointless(at) || this.#replaceable(at)) continue;
			const many = nodes[at].thrus.length;
			let rooms = roomsOf.get(many);
			if (!rooms) roomsOf.set(many, (rooms = this.#rooms([...thrus, many])));
			const most = Math.min(rooms.length, this.#wide - n);
			if (most === 0) continue;
			let joining = 0;
			for (let more = 0; more < most; more++) joining = Math.max(joining, rooms[more] + more);
			// So many more, with the cheapest that then have room.
			const gain = this.#meters.map((meter) => {
				let least = 0;
				for (let more = 0; more < most; more++)
					least = Math.min(
						least,
						meter.wideGain(n + 1, n + 1 + more) + meter.narrowGain(this.#wide, rooms[more], spare)
					);
				return least;
			});
			if (this.#enter(at, n + 1, gain, joining)) this.#wides(n + 1);
			this.#leave(at);
		}
	}

	#rooms(thrus: readonly number[]): number[] {
		const rooms: number[] = [];
		for (let many = 0; many < this.#wide; many++) {
			const room = this.#room([...thrus, ...Array<number>(many).fill(this.#widest)]);
			if (room < 0) break;
			rooms.push(room);
		}
		return rooms;
	}

	#narrow(from: number, room: number): void {
		const [meter] = this.#meters;
		const frame = this.#frame(this.#members.length);
		const spare = this.#spare(frame);
		const cost = frame.cost[0] + frame.extra[0];
		for (let n = from; room > 0 && n < this.#order.length && !this.#stopped(); n++) {
			const at = this.#order[n];
			if (this.#pointless(at) || this.#replaceable(at)) continue;
			// They stand in the order of what they cost: what comes later brings no more.
			const least = cost + meter.narrowGain(n, room, spare);
			if (this.#tooDear(0, least, n, room, 1)) return;
			if (this.#enter(at, n + 1, null, room - 1)) this.#narrow(n + 1, room - 1);
			this.#leave(at);
		}
	}

	/**
	 * One more in the set.
	 * @param from those who may join after it come from this place of the order on
	 * @param gain what they bring at most by each meter, but for cables that stay; `null` where only narrow ones may
	 * @param many so many may join
	 * @returns whether those could make it cheap enough
	 */
	#enter(at: number, from: number, gain: readonly number[] | null, many: number): boolean {
		this.#push(at);
		return (
			this.#join(at) &&
			this.#promising(from, gain, many) &&
			this.#take() &&
			many > 0 &&
			this.#promising(from, gain, many)
		);
	}

	#push(at: number): void {
		this.#inside[at] = 1;
		this.#members.push(at);
	}

	#leave(at: number): void {
		this.#inside[at] = 0;
		this.#members.pop();
	}

	#promising(from: number, gain: readonly number[] | null, many: number): boolean {
		const frame = this.#frame(this.#members.length);
		const spare = this.#spare(frame);
		const thrus = gain === null ? 1 : this.#widest;
		for (let m = 0; m < this.#below.length; m++) {
			const least =
				frame.cost[m] +
				frame.extra[m] +
				(gain === null ? this.#meters[m].narrowGain(from, many, spare) : gain[m]);
			if (this.#tooDear(m, least, from, many, thrus)) return false;
		}
		return true;
	}

	/** Whether a set that costs so much at least, but for cables that stay, is too dear with them. */
	#tooDear(m: number, least: number, from: number, many: number, thrus: number): boolean {
		const below = this.#below[m];
		if (least < below) return false;
		// No more stay than one of each that joins, and one at each of its thru sockets.
		const { moves } = this.#meters[m].rates;
		if (least - moves * many * (1 + thrus) >= below) return true;
		return least - this.#stay(m, from, many, thrus) >= below;
	}

	/** Load that may still join. */
	#spare({ load }: Frame): number {
		return Math.min(this.wanted.load, this.pricer.task.capacity) - load + 1e-6;
	}

	/**
	 * What cables that stay can save at most when so many join from one place of the order on.
	 * @param thrus sockets of each at most
	 */
	#stay(m: number, from: number, many: number, thrus: number): number {
		const meter = this.#meters[m];
		const { feeders, degrees } = this.pricer;
		let [feeding, waiting] = [0, 0];
		for (const at of this.#members) {
			if (degrees[at] === 0) continue;
			for (const fed of this.#fed[at])
				if (this.#rank[fed] >= from && this.#inside[fed] === 0) feeding += meter.saves[fed];
			const feeder = feeders[at];
			if (feeder >= 0 && this.#rank[feeder] >= from && this.#inside[feeder] === 0)
				waiting += meter.saves[feeder];
		}
		// Each that joins keeps one cable: from a member, or from another that joins. Members may keep theirs from it.
		const joining = feeding + meter.pairGain(from, this.pricer.pairsOf(many));
		const { moves } = meter.rates;
		return Math.min(moves * many, joining) + Math.min(moves * many * thrus, waiting);
	}

	/**
	 * What the set costs at least with the one that came last.
	 * @returns `false` where it would be too much for the out
	 */
	#join(at: number): boolean {
		const { pricer, wanted } = this;
		const sum = this.#frame(this.#members.length - 1);
		const next = this.#frame(this.#members.length);
		const node = pricer.nodes[at];
		const real = !pricer.isBox(at);
		next.load = sum.load + node.bytesPerSecond;
		next.parts = sum.parts + (real ? node.parts : 0);
		next.real = sum.real + (real ? 1 : 0);
		next.omni = sum.omni || (real && node.omni);
		if (next.load > wanted.load + 1e-6 || next.load > pricer.task.capacity + 1e-9) return false;
		if (next.parts > MOST_PARTS || (next.omni && next.real > 1)) return false;
		// Cables stay between it and what it hangs on today, or what hangs on it.
		const feeder = pricer.feeders[at];
		const hangs = feeder >= 0 && this.#inside[feeder] === 1;
		let inside = 0;
		for (const fed of this.#fed[at]) inside += this.#inside[fed];
		const stay = (hangs ? 1 : 0) + Math.min(inside, node.thrus.length);
		next.shared = sum.shared;
		next.changed = sum.changed;
		if (real) {
			const { today } = pricer.choice(at, this.#out);
			if (today === null || today.mask & sum.shared) next.changed++;
			else next.shared |= today.mask & -today.mask;
		}
		next.least = sum.least + this.#meters[0].leastSum[at];
		for (let m = 0; m < this.#meters.length; m++) {
			const meter = this.#meters[m];
			next.cost[m] = sum.cost[m] + meter.cost[at] - meter.rates.moves * stay;
			next.counted[m] = sum.counted[m] + meter.channelCost[at];
			next.extra[m] = Math.max(
				sum.extra[m],
				meter.extra(next.counted[m], next.least, next.parts, next.changed)
			);
		}
		return true;
	}

	/** Keeps a set if it is cheap enough. @returns whether more may join it */
	#take(): boolean {
		const { pricer, rates } = this;
		const sum = this.#frame(this.#members.length);
		// What costs too much by itself is not asked for its price.
		for (let m = 0; m < this.#below.length; m++)
			if (sum.cost[m] + sum.extra[m] >= this.#below[m]) return true;
		const set = this.#members.toSorted((a, b) => a - b);
		const given = pricer.given(this.#out, set);
		if (!given) return false;
		this.#meters.forEach((meter, m) => {
			const extra = meter.extra(sum.counted[m], sum.least, sum.parts, given.changed);
			sum.extra[m] = Math.max(sum.extra[m], extra);
		});
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
		const { steps = Infinity, patience = Infinity } = this.wanted;
		const found = this.found || this.#best.length > 0;
		if (this.#steps > (found ? Math.min(steps, patience) : steps)) this.#all = false;
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

/** Costs that differ by noise alone are the same. */
const rounded = (cost: number): number => Math.round(cost * 1e9);
