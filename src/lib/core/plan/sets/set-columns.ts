import type { PlanTask, Socket } from '../task';
import type { Price, Pricer } from './price';

/** A set of devices and boxes on one out: a column of the programme. */
export interface SetColumn {
	devices: number[];
	/** Index of the out where a member's cable stays, or -1 for any other out of the class. */
	out: number;
	kind: number;
	price: Price;
}

/** Outs that are alike but for the cable that is in them today. */
export interface OutClass {
	outs: readonly number[];
}

/** Outs by what matters for a set's price; places matter only where `withPlaces`. */
export function outClasses(task: PlanTask, withPlaces: boolean): OutClass[] {
	const signature = (out: Socket) =>
		JSON.stringify([
			withPlaces ? out.place : '',
			out.reserved,
			out.wireless,
			out.hosts,
			out.trs,
			task.devices.some(({ id }) => id === out.device) ? out.device : '',
			out.off,
			task.devices.filter(({ lockOut }) => lockOut === out.id).map(({ id }) => id)
		]);
	const classes = new Map<string, number[]>();
	task.outs.forEach((out, i) => classes.set(signature(out), [...(classes.get(signature(out)) ?? []), i]));
	return [...classes.values()].map((outs) => ({ outs }));
}

/** An out of a class where no member of a set is at home. */
export const freshOut = (pricer: Pricer, { outs }: OutClass, set: readonly number[]): number | undefined =>
	outs.find((out) => !set.some((at) => pricer.homes[at] === out));

/**
 * Sets on every class of outs. Where a member's cable could stay and that saves a move, the set goes to that very
 * out instead of anywhere in the class: letting it stay is never worse.
 */
export function setColumns(
	pricer: Pricer,
	sets: readonly number[][],
	classes: readonly OutClass[]
): SetColumn[] {
	const kindOf = new Map(classes.flatMap(({ outs }, kind) => outs.map((out) => [out, kind] as const)));
	const columns: SetColumn[] = [];
	for (const devices of sets) {
		const homes = devices.map((i) => pricer.homes[i]).filter((out) => out >= 0);
		classes.forEach((outs, kind) => {
			const fresh = freshOut(pricer, outs, devices);
			const price = fresh === undefined ? null : pricer.price(fresh, devices);
			let stays = false;
			for (const out of homes) {
				if (kindOf.get(out) !== kind) continue;
				const there = pricer.price(out, devices);
				if (!there || (price && there.moves >= price.moves)) continue;
				stays = true;
				columns.push({ devices, out, kind, price: there });
			}
			if (price && !stays) columns.push({ devices, out: -1, kind, price });
		});
	}
	return columns;
}
