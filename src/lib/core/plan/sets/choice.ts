import { bestAlone, sameChannels, sumOf, worthwhile } from '../model';
import type { Candidate } from '../task';

/** Channels that go together. */
interface Block {
	channels: number[];
	/** A bit for each channel. */
	mask: number;
	sum: number;
}

/** What a device can be given on an out: today's channels, another block, or any `parts` of single channels. */
export interface Choice {
	/** Today's channels, if they can stay. */
	today: Block | null;
	/** Other blocks, for several parts that follow one another. */
	blocks: Block[];
	/** A bit for each single channel that it can be given, for one part or loose ones. */
	singles: number;
	parts: number;
	/** A single channel that must be the lowest. */
	lock: number | null;
	/** The least sum of channels that it can be given, and the least where it does not keep today's. */
	leastSum: number;
	leastOther: number;
}

const maskOf = (channels: readonly number[]): number =>
	channels.reduce((mask, channel) => mask | (1 << channel), 0);
const blockOf = (channels: number[]): Block => ({ channels, mask: maskOf(channels), sum: sumOf(channels) });

/** No channel at all: it is given one elsewhere. */
export const none = (parts: number): Choice => ({
	today: blockOf([]),
	blocks: [],
	singles: 0,
	parts,
	lock: null,
	leastSum: 0,
	leastOther: Infinity
});

/**
 * @param others devices that may be on the same out
 * @param most that many devices can be on one out
 */
export function choiceOf(
	device: Candidate,
	others: readonly Candidate[],
	reserved: readonly number[],
	most: number
): Choice {
	const { loose, parts, lockChannel, present } = device;
	const isLoose = loose.length > 0;
	const alone = bestAlone(device, reserved);
	const blocks = isLoose ? [] : most > 1 ? worthwhile(device, others, reserved, most) : alone ? [alone] : [];
	const singly = isLoose || parts === 1;
	const able = isLoose
		? alone
			? loose.filter((channel) => !reserved.includes(channel))
			: []
		: blocks.flat();
	const today = [alone ?? [], ...blocks].find(
		(block) => block.length > 0 && sameChannels(block, present.channels)
	);
	const rest = singly ? [] : blocks.filter((block) => block !== today);
	const lock = isLoose ? lockChannel : null;
	const lowest =
		lock === null
			? able.slice(0, parts)
			: [lock, ...able.filter((channel) => channel > lock).slice(0, parts - 1)];
	const leastOther = Math.min(
		...rest.map(sumOf),
		singly && lowest.length === parts ? sumOf(lowest) : Infinity
	);
	return {
		today: today ? blockOf(today) : null,
		blocks: rest.map(blockOf),
		singles: singly ? maskOf(able) : 0,
		parts,
		lock,
		leastOther,
		leastSum: Math.min(today ? sumOf(today) : Infinity, leastOther)
	};
}

/**
 * Whether whatever one choice gives, another gives too, with no more changes.
 * @param alike it must be given just the same, so that the sum of the channels is too
 */
export function offersAll(more: Choice, less: Choice, alike: boolean): boolean {
	if (more.parts !== less.parts || more.lock !== less.lock) return false;
	const blocksOf = ({ blocks }: Choice) => blocks.map(({ mask }) => mask);
	const [all, some] = [blocksOf(more), blocksOf(less)];
	const today = (more.today?.mask ?? 0) === (less.today?.mask ?? 0);
	if (alike)
		return (
			today &&
			more.singles === less.singles &&
			all.length === some.length &&
			all.every((mask, i) => mask === some[i])
		);
	return (
		(today || less.today === null) &&
		(less.singles & ~more.singles) === 0 &&
		some.every((mask) => all.includes(mask))
	);
}

/** Channels for several devices on one out, none twice. */
export interface Given {
	channels: number[][];
	/** Devices that do not keep today's. */
	changed: number;
	sum: number;
}

/** As few changes as can be, then the smallest sum; `null` where they clash whatever is chosen. */
export function giveAll(choices: readonly Choice[]): Given | null {
	const search = new Giving(choices);
	search.visit(0, 0, 0, 0);
	return search.best;
}

class Giving {
	best: Given | null = null;
	/** What each has so far; nothing for those that take single channels of what is left. */
	readonly #chosen: (number[] | null)[];

	constructor(readonly choices: readonly Choice[]) {
		this.#chosen = choices.map(() => null);
	}

	visit(at: number, taken: number, changed: number, sum: number): void {
		const { best, choices } = this;
		if (best && (changed > best.changed || (changed === best.changed && sum >= best.sum))) return;
		if (at === choices.length) {
			this.#finish(taken, changed, sum);
			return;
		}
		const { today, blocks, singles } = choices[at];
		if (today && !(taken & today.mask)) {
			this.#chosen[at] = today.channels;
			this.visit(at + 1, taken | today.mask, changed, sum + today.sum);
		}
		for (const block of blocks)
			if (!(taken & block.mask)) {
				this.#chosen[at] = block.channels;
				this.visit(at + 1, taken | block.mask, changed + 1, sum + block.sum);
			}
		this.#chosen[at] = null;
		if (singles !== 0) this.visit(at + 1, taken, changed + 1, sum);
	}

	#finish(taken: number, changed: number, sum: number): void {
		const rest = singles.give(this.choices, this.#chosen, taken);
		if (!rest) return;
		const total = sum + rest.sum;
		if (this.best && changed === this.best.changed && total >= this.best.sum) return;
		const channels = this.#chosen.map((given, i) => given ?? rest.channels[i]);
		this.best = { channels, changed, sum: total };
	}
}

/** Single channels for slots that are free: a slot for each part. */
class Singles {
	/** What each slot can be given, and is; and whose it is. */
	readonly #able = new Int32Array(32);
	readonly #given = new Int32Array(32);
	readonly #owner = new Int32Array(32);
	#slots = 0;
	#seen = 0;

	/**
	 * The smallest sum for all that have none yet: from the lowest on, each channel that can be given to somebody, the
	 * others moving aside for it. (What can be given are the independent sets of a transversal matroid, so taking the
	 * lowest first is best.)
	 */
	give(
		choices: readonly Choice[],
		chosen: readonly (number[] | null)[],
		taken: number
	): { channels: number[][]; sum: number } | null {
		this.#slots = 0;
		for (let device = 0; device < choices.length; device++) {
			if (chosen[device] !== null) continue;
			const { singles, parts, lock } = choices[device];
			const free = singles & ~taken;
			for (let part = 0; part < parts; part++) {
				// The locked one is the lowest.
				const able = lock === null ? free : free & (part === 0 ? 1 << lock : ~((2 << lock) - 1));
				if (able === 0 || this.#slots === 16) return null;
				this.#able[this.#slots] = able;
				this.#given[this.#slots] = 0;
				this.#owner[this.#slots++] = device;
			}
		}
		let [left, sum] = [this.#slots, 0];
		for (let channel = 1; channel <= 16 && left > 0; channel++) {
			this.#seen = 0;
			if (!this.#take(channel)) continue;
			left--;
			sum += channel;
		}
		if (left > 0) return null;
		const channels: number[][] = choices.map(() => []);
		for (let slot = 0; slot < this.#slots; slot++) channels[this.#owner[slot]].push(this.#given[slot]);
		for (const list of channels) if (list.length > 1) list.sort((a, b) => a - b);
		return { channels, sum };
	}

	#take(channel: number): boolean {
		for (let slot = 0; slot < this.#slots; slot++) {
			if (this.#seen & (1 << slot) || !(this.#able[slot] & (1 << channel))) continue;
			this.#seen |= 1 << slot;
			if (this.#given[slot] !== 0 && !this.#take(this.#given[slot])) continue;
			this.#given[slot] = channel;
			return true;
		}
		return false;
	}
}

const singles = new Singles();
