import { crowd } from '../model';
import { compatible, crosses, type Candidate, type PlanTask } from '../task';
import { bestChain, type Chain } from './chain';
import { choiceOf, giveAll, none, type Choice, type Given } from './choice';

/** What a set costs on one out, with the order and the channels that cost the least. */
export interface Price {
	crowded: number;
	moves: number;
	load: number;
	away: number;
	channels: number;
}

/** Where a member of a set hangs, and on which channels. */
export interface Hanging {
	/** Index of the device or box. */
	at: number;
	hop: number;
	/** Thru socket that its cable comes from. */
	via: string | null;
	channels: number[];
}

const NOTHING: Price = { crowded: 0, moves: 0, load: 0, away: 0, channels: 0 };
const SAFE = 2 ** 53;

/** Prices sets of devices and thru boxes on an out: any chain, any channels. */
export class Pricer {
	/** Devices to feed. */
	readonly devices: Candidate[];
	/** Devices, and after them the thru boxes: a set is of indices into these, counting up. */
	readonly nodes: Candidate[];
	/** Index of the out that each node's cable comes from today, or -1. */
	readonly homes: number[];
	/** Index of the node that each node's cable comes from today, or -1. */
	readonly feeders: number[];
	/** How many cables of today each node has with others. */
	readonly degrees: number[];
	/** By out, whether anything needs an adapter there. */
	readonly adapters: boolean[];
	/** Outs that price every set alike, but for the cable that is in them today. */
	readonly kinds: number[];
	readonly #known = new Map<number | string, Price | null>();
	readonly #given = new Map<number | string, Given | null>();
	readonly #pairs: number[];
	readonly #allowed: boolean[][];
	readonly #choices: Choice[][];
	readonly #base: number;
	/** Sets up to this size have a number as their key. */
	readonly #most: number;
	/** Devices that can hang one behind the other. */
	readonly depth: number;
	/** Channels are those of the whole studio: no set has any by itself. */
	readonly studioWide: boolean;

	constructor(readonly task: PlanTask) {
		const shared = task.policy !== 'port-per-instrument';
		this.studioWide = task.policy === 'studio-wide-channels';
		this.depth = shared ? task.chain : 1;
		this.devices = task.devices.filter(({ box, into }) => !box && into !== null);
		this.nodes = [...this.devices, ...(shared ? task.devices.filter(({ box }) => box) : [])];
		const outIndex = new Map(task.outs.map(({ id }, i) => [id, i]));
		const nodeIndex = new Map(this.nodes.map(({ id }, i) => [id, i]));
		const feeds = this.nodes.map(({ present }) => present.feed);
		this.homes = feeds.map((feed) => (feed && 'out' in feed ? (outIndex.get(feed.out) ?? -1) : -1));
		this.feeders = feeds.map((feed) => (feed && 'device' in feed ? (nodeIndex.get(feed.device) ?? -1) : -1));
		this.#allowed = this.nodes.map((node) =>
			task.outs.map((out) => compatible(node, out) && (node.lockOut === null || node.lockOut === out.id))
		);
		this.degrees = this.feeders.map(
			(feeder, at) => (feeder < 0 ? 0 : 1) + this.feeders.filter((other) => other === at).length
		);
		this.adapters = task.outs.map(({ trs }) => this.nodes.some(({ intoTrs }) => crosses(intoTrs, trs)));
		this.#pairs = pairsBy(this.feeders);
		const most = shared ? crowd(task) : 1;
		// Outs with the same reserved channels offer the same ones.
		const reserved = new Map<string, number>();
		const scopes = task.outs.map((out) => {
			const key = out.reserved.toSorted((a, b) => a - b).join();
			if (!reserved.has(key)) reserved.set(key, reserved.size);
			return reserved.get(key)!;
		});
		this.#scopes = scopes;
		this.#choices = [...reserved.keys()].map((key) =>
			this.devices.map((device) =>
				this.studioWide
					? none(device.parts)
					: choiceOf(
							device,
							this.devices.filter((other) => other !== device),
							key === '' ? [] : key.split(',').map(Number),
							most
						)
			)
		);
		const kinds = new Map<string, number>();
		this.kinds = task.outs.map(({ place, wireless, trs, off }, out) => {
			const alike = JSON.stringify([
				place,
				scopes[out],
				wireless,
				trs,
				off,
				this.#allowed.map((allowed) => allowed[out])
			]);
			if (!kinds.has(alike)) kinds.set(alike, kinds.size);
			return kinds.get(alike)!;
		});
		this.#base = this.nodes.length + 1;
		let [room, size] = [kinds.size, 0];
		for (room *= 2 * this.#base; room < SAFE; room *= 2 * this.#base) size++;
		this.#most = size;
	}

	readonly #scopes: number[];

	/** How many nodes of so many can hang on one another as they do today, at most. */
	pairsOf(many: number): number {
		return this.#pairs[Math.min(many, this.#pairs.length - 1)];
	}

	isBox(at: number): boolean {
		return at >= this.devices.length;
	}

	allowed(at: number, out: number): boolean {
		return this.#allowed[at][out];
	}

	choice(at: number, out: number): Choice {
		return this.#choices[this.#scopes[out]][at];
	}

	/** Every place of a key is as wide as its values; beyond what a number holds, it is a text. */
	#key(set: readonly number[], first: number): number | string {
		if (set.length > this.#most) return `${first} ${set.join()}`;
		let key = first;
		for (let n = 0; n < this.#most; n++) key = key * this.#base + (n < set.length ? set[n] + 1 : 0);
		return key;
	}

	/** `null` when they cannot be on that out together. `set` counts up. */
	price(out: number, set: readonly number[]): Price | null {
		if (set.length === 0) return NOTHING;
		// Which members are at home there matters: a cable may stay.
		let home = 0;
		for (let n = 0; n < set.length; n++) if (this.homes[set[n]] === out) home |= 1 << n;
		const key = this.#key(set, this.kinds[out] * 2 ** Math.max(set.length, this.#most) + home);
		const known = this.#known.get(key);
		if (known !== undefined) return known;
		const price = this.#price(out, set);
		this.#known.set(key, price);
		return price;
	}

	#price(out: number, set: readonly number[]): Price | null {
		if (set.some((at) => !this.#allowed[at][out])) return null;
		const real = set.filter((at) => !this.isBox(at)).map((at) => this.devices[at]);
		if (real.length > 1 && real.some(({ omni }) => omni)) return null;
		const load = real.reduce((sum, { bytesPerSecond }) => sum + bytesPerSecond, 0);
		if (load > this.task.capacity + 1e-9) return null;
		const chain = this.#chain(out, set);
		const given = chain && this.given(out, set);
		if (!given) return null;
		const { place, off } = this.task.outs[out];
		return {
			crowded: real.length > 1 ? real.filter(({ tight }) => tight).length : 0,
			moves:
				set.length -
				chain.saved +
				given.changed +
				this.#renamed(real) +
				(off ? 1 : 0) +
				set.filter((at) => this.nodes[at].present.player !== null).length,
			load,
			away: real.filter((device) => device.place && place && device.place !== place).length,
			channels: given.sum
		};
	}

	/** Channels for the devices of a set, whatever else is in the way; `null` where they clash. */
	given(out: number, set: readonly number[]): Given | null {
		const real = set.filter((at) => !this.isBox(at));
		if (real.length === 0) return { channels: [], changed: 0, sum: 0 };
		const scope = this.#scopes[out];
		const key = this.#key(real, scope);
		const known = this.#given.get(key);
		if (known !== undefined) return known;
		const given = giveAll(real.map((at) => this.#choices[scope][at]));
		this.#given.set(key, given);
		return given;
	}

	/** Where each member of a set hangs, those above first. */
	hang(out: number, set: readonly number[]): Hanging[] {
		const { hops, kept } = this.#chain(out, set)!;
		const { channels } = this.given(out, set)!;
		const today = set.map((at, n) => {
			const { feed } = this.nodes[at].present;
			return kept[n] && feed && 'socket' in feed ? feed.socket : null;
		});
		/** Sockets on each hop that nobody keeps. */
		const free: string[][] = [[], []];
		const hanging: Hanging[] = [];
		for (const n of set.map((_, i) => i).sort((a, b) => hops[a] - hops[b])) {
			const hop = hops[n];
			const via = hop === 1 ? null : (today[n] ?? free[hop].shift()!);
			(free[hop + 1] ??= []).push(...this.nodes[set[n]].thrus.filter((socket) => !today.includes(socket)));
			// Boxes come last in a set, and have no channels.
			hanging.push({ at: set[n], hop, via, channels: channels[n] ?? [] });
		}
		return hanging;
	}

	#chain(out: number, set: readonly number[]): Chain | null {
		const { id, trs } = this.task.outs[out];
		return bestChain(
			set.map((at) => {
				const { thrus, intoTrs, present } = this.nodes[at];
				const home = present.feed !== null && 'out' in present.feed && present.feed.out === id;
				return {
					thrus: thrus.length,
					home,
					adapter: crosses(intoTrs, trs),
					feeder: set.indexOf(this.feeders[at])
				};
			}),
			this.depth
		);
	}

	/** Of one model with one device ID, all but one get another. */
	#renamed(real: readonly Candidate[]): number {
		return real.filter(
			(device, i) =>
				device.model !== '' &&
				device.present.deviceId !== null &&
				real
					.slice(0, i)
					.some((other) => other.model === device.model && other.present.deviceId === device.present.deviceId)
		).length;
	}
}

/** By how many there are: the most of them that can hang on another one of them. Of each group that hangs together, all but one. */
function pairsBy(feeders: readonly number[]): number[] {
	const head = (at: number): number => {
		let top = at;
		for (let n = 0; n < feeders.length && feeders[top] >= 0; n++) top = feeders[top];
		return top;
	};
	const sizes = new Map<number, number>();
	feeders.forEach((_, at) => sizes.set(head(at), (sizes.get(head(at)) ?? 0) + 1));
	const pairs = [0];
	for (const size of [...sizes.values()].sort((a, b) => b - a))
		for (let n = 0; n < size; n++) pairs.push(pairs.at(-1)! + (n > 0 ? 1 : 0));
	return pairs;
}
