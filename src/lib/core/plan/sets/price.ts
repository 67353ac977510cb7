import { bestAlone, crowd, sameChannels, worthwhile } from '../model';
import { compatible, crosses, type Candidate, type PlanTask } from '../task';

/** What a set of devices on one out costs, with the order and the channels that cost the least. */
export interface Price {
	crowded: number;
	moves: number;
	load: number;
	away: number;
	channels: number;
	/** Devices in the order of their hops. */
	order: number[];
	/** Channels, for each device of `order`. */
	given: number[][];
}

/** Devices beyond this many, and members of a set beyond so many, cannot be told apart in a key. */
const MOST_DEVICES = 512;
const MOST_MEMBERS = 4;

/** A block of channels as a device may be given it. */
interface Choice {
	block: number[];
	/** A bit for each channel. */
	mask: number;
	sum: number;
	today: boolean;
}

const choiceOf = (block: number[], today: readonly number[]): Choice => ({
	block,
	mask: block.reduce((mask, channel) => mask | (1 << channel), 0),
	sum: block.reduce((sum, channel) => sum + channel, 0),
	today: sameChannels(block, today)
});

/** Prices sets of devices on an out, for plans without thru boxes where chains are lines. */
export class Pricer {
	readonly devices: Candidate[];
	/** Index of the out that each device's cable comes from today, or -1. */
	readonly homes: number[];
	readonly #known = new Map<number, Price | null>();
	readonly #allowed: boolean[][];
	readonly #options: Choice[][][];
	readonly #shared: boolean;
	/** Outs that price every set alike, but for the cable that is in them today. */
	readonly #kind: number[];

	get #limit(): number {
		return this.#shared ? this.task.chain : 1;
	}

	constructor(readonly task: PlanTask) {
		this.#shared = task.policy !== 'port-per-instrument';
		this.devices = task.devices.filter(({ box, into }) => !box && into !== null);
		const outIndex = new Map(task.outs.map(({ id }, i) => [id, i]));
		this.homes = this.devices.map(({ present: { feed } }) =>
			feed && 'out' in feed ? (outIndex.get(feed.out) ?? -1) : -1
		);
		const most = crowd(task);
		this.#allowed = this.devices.map((device) =>
			task.outs.map(
				(out) => compatible(device, out) && (device.lockOut === null || device.lockOut === out.id)
			)
		);
		this.#options = this.devices.map((device) => {
			const others = this.devices.filter((other) => other !== device).map(({ parts }) => parts);
			return task.outs.map(({ reserved }) => {
				const alone = bestAlone(device, reserved);
				const blocks =
					this.#shared && device.loose.length === 0
						? worthwhile(device, others, reserved, most)
						: alone
							? [alone]
							: [];
				// Today's first: what comes after it can only be worse sooner.
				return blocks
					.map((block) => choiceOf(block, device.present.channels))
					.sort((a, b) => Number(b.today) - Number(a.today));
			});
		});
		const kinds = new Map<string, number>();
		this.#kind = task.outs.map(({ place, reserved, wireless, trs, off }, out) => {
			const alike = JSON.stringify([
				place,
				reserved,
				wireless,
				trs,
				off,
				this.#allowed.map((allowed) => allowed[out])
			]);
			if (!kinds.has(alike)) kinds.set(alike, kinds.size);
			return kinds.get(alike)!;
		});
	}

	/** `null` when they cannot be on that out together. `set` counts up. */
	price(out: number, set: readonly number[]): Price | null {
		if (set.length > Math.min(this.#limit, MOST_MEMBERS)) return null;
		// Which members are at home there matters: a cable may stay. Every place of the key is as wide as its values.
		let home = 0;
		for (let n = 0; n < set.length; n++) if (this.homes[set[n]] === out) home |= 1 << n;
		let key = this.#kind[out] * (1 << MOST_MEMBERS) + home;
		for (let n = 0; n < MOST_MEMBERS; n++) key = key * (MOST_DEVICES + 1) + (n < set.length ? set[n] + 1 : 0);
		const known = this.#known.get(key);
		if (known !== undefined) return known;
		const price = this.#price(out, set);
		this.#known.set(key, price);
		return price;
	}

	#price(out: number, set: readonly number[]): Price | null {
		if (set.length === 0)
			return { crowded: 0, moves: 0, load: 0, away: 0, channels: 0, order: [], given: [] };
		const all = set.map((i) => this.devices[i]);
		if (set.some((i) => !this.#allowed[i][out])) return null;
		if (set.length > 1 && all.some(({ omni }) => omni)) return null;
		const load = all.reduce((sum, { bytesPerSecond }) => sum + bytesPerSecond, 0);
		if (load > this.task.capacity + 1e-9) return null;
		const line = this.#line(out, set);
		if (!line) return null;
		const given = this.#channels(out, line.order);
		if (!given) return null;
		const { place } = this.task.outs[out];
		return {
			crowded: set.length > 1 ? all.filter(({ tight }) => tight).length : 0,
			moves:
				set.length -
				line.kept +
				given.changed +
				this.#renamed(all) +
				(this.task.outs[out].off ? 1 : 0) +
				all.filter(({ present }) => present.player !== null).length,
			load,
			away: all.filter((device) => device.place && place && device.place !== place).length,
			channels: given.sum,
			order: line.order,
			given: given.given
		};
	}

	/** Of one model with one device ID, all but one get another. */
	#renamed(all: readonly Candidate[]): number {
		return all.filter(
			(device, i) =>
				device.model !== '' &&
				device.present.deviceId !== null &&
				all
					.slice(0, i)
					.some((other) => other.model === device.model && other.present.deviceId === device.present.deviceId)
		).length;
	}

	/** The line through thru sockets that keeps the most cables. */
	#line(out: number, set: readonly number[]): { order: number[]; kept: number } | null {
		let best: { order: number[]; kept: number } | null = null;
		const visit = (order: number[], left: readonly number[], kept: number) => {
			if (left.length === 0) {
				if (!best || kept > best.kept) best = { order, kept };
				return;
			}
			for (const i of left) {
				const above = order.at(-1);
				if (above !== undefined && this.devices[above].thrus.length === 0) continue;
				const { feed } = this.devices[i].present;
				const stays =
					feed !== null &&
					('out' in feed
						? above === undefined && feed.out === this.task.outs[out].id
						: above !== undefined && feed.device === this.devices[above].id);
				// A crossing adapter at the out is one thing more to plug.
				const adapter =
					above === undefined && !stays && crosses(this.devices[i].intoTrs, this.task.outs[out].trs);
				visit(
					[...order, i],
					left.filter((other) => other !== i),
					kept + (stays ? 1 : 0) - (adapter ? 1 : 0)
				);
			}
		};
		visit([], set, 0);
		return best;
	}

	/** Channels without a clash: as few changes as can be, then the smallest sum. */
	#channels(
		out: number,
		order: readonly number[]
	): { given: number[][]; changed: number; sum: number } | null {
		const choices = order.map((i) => this.#options[i][out]);
		const chosen: Choice[] = [];
		let best: Choice[] | null = null;
		let [leastChanged, leastSum] = [Infinity, Infinity];
		const visit = (taken: number, changed: number, sum: number) => {
			if (changed > leastChanged || (changed === leastChanged && sum >= leastSum)) return;
			if (chosen.length === choices.length) {
				[best, leastChanged, leastSum] = [[...chosen], changed, sum];
				return;
			}
			for (const choice of choices[chosen.length]) {
				if (taken & choice.mask) continue;
				chosen.push(choice);
				visit(taken | choice.mask, changed + (choice.today ? 0 : 1), sum + choice.sum);
				chosen.pop();
			}
		};
		visit(0, 0, 0);
		return (
			best && { given: (best as Choice[]).map(({ block }) => block), changed: leastChanged, sum: leastSum }
		);
	}
}
