import type { Pricer } from './price';
import type { Rates } from './rates';
import type { OutClass } from './set-columns';
import { NOTHING, type Limit } from './wanted';

/** What sets of a search have in common. */
export interface Start {
	/** The node at home at the out, which stays right there, or -1. */
	home: number;
	/** A node that is in all of them, wherever it hangs, or -1; and nodes that are in none. */
	must: number;
	without?: readonly number[];
	/** The only device beside boxes, or -1. */
	only: number;
}

/** @param model an out whose sets are known: of those that could be there too, only those with a cable that stays here are of use */
export function startsOn(pricer: Pricer, outs: readonly number[], model: number | null): Start[] {
	const homes = pricer.homes.flatMap((out, at) => (outs.includes(out) ? [at] : []));
	// Tight devices are looked at once with others, and once with nothing but boxes.
	const tight = pricer.devices.flatMap((device, at) => (device.tight ? [at] : []));
	const isNew = (at: number) => pricer.allowed(at, outs[0]) && (model === null || !pricer.allowed(at, model));
	const fresh = pricer.nodes.flatMap((_, at) => (isNew(at) ? [at] : []));
	const others: Start[] =
		model === null
			? [-1, ...tight].map((only) => ({ home: -1, must: -1, only }))
			: fresh.flatMap((must, n) =>
					[-1, ...tight.filter((only) => only === must || pricer.isBox(must))].map((only) => ({
						home: -1,
						must,
						only,
						without: fresh.slice(0, n)
					}))
				);
	return [
		...others,
		...homes.flatMap((home) =>
			[-1, ...tight]
				.filter((only) => only < 0 || home === only || pricer.isBox(home))
				.map((only) => ({ home, must: -1, only }))
		)
	];
}

/** Classes by how little can be there: what the sets of one are known for may say it for another. */
export function inOrder(pricer: Pricer, classes: readonly OutClass[]): number[] {
	const many = classes.map(({ outs }) => pricer.nodes.filter((_, at) => pricer.allowed(at, outs[0])).length);
	const reserved = classes.map(({ outs }) => pricer.task.outs[outs[0]].reserved.length);
	return classes
		.map((_, kind) => kind)
		.sort((a, b) => many[a] - many[b] || reserved[a] - reserved[b] || a - b);
}

/** Whether every set of nodes that can be on both outs, and is at home on neither, is no dearer on one than on another. */
export function covers(
	pricer: Pricer,
	one: number,
	other: number,
	rates: Rates,
	limits: readonly Limit[]
): boolean {
	const { outs } = pricer.task;
	const [a, b] = [outs[one], outs[other]];
	const all = [rates, ...limits.map((limit) => limit.rates)];
	const counts = (goal: 'away' | 'channels') => all.some((at) => at[goal] > 0);
	const channel = a.reserved.every((at) => b.reserved.includes(at));
	return (
		channel &&
		// A change of channels that is saved might cost more than it brings.
		(a.reserved.length === b.reserved.length || !counts('channels')) &&
		(a.place === b.place || !counts('away')) &&
		(a.trs === b.trs || (!pricer.adapters[one] && !pricer.adapters[other])) &&
		(!a.off || b.off) &&
		all.every(
			({ outs: worth, worth: there }) =>
				worth[one] >= worth[other] - NOTHING &&
				pricer.nodes.every(
					(_, at) =>
						!pricer.allowed(at, one) || !pricer.allowed(at, other) || there[one][at] >= there[other][at]
				)
		)
	);
}
