import { crosses } from '../task';
import { offersAll } from './choice';
import type { Meter } from './meter';
import type { Pricer } from './price';
import { NOISE } from './wanted';

/**
 * For each node of an order, the earlier ones that can stand in for it: put in its place, they make any set no dearer by any
 * meter, and break no rule that it keeps, as long as no cable of today is between it and the rest. Of the cheapest sets
 * there is then one without it where one of them is not in it.
 * @returns by node
 */
export function standIns(
	pricer: Pricer,
	out: number,
	meters: readonly Meter[],
	order: readonly number[]
): number[][] {
	const before = pricer.nodes.map((): number[] => []);
	order.forEach((at, rank) => {
		before[at] = order.slice(0, rank).filter((other) => standsIn(pricer, out, meters, other, at));
	});
	return before;
}

function standsIn(pricer: Pricer, out: number, meters: readonly Meter[], other: number, at: number): boolean {
	if (pricer.isBox(other) !== pricer.isBox(at)) return false;
	const [a, b] = [pricer.nodes[other], pricer.nodes[at]];
	const { trs } = pricer.task.outs[out];
	if (a.thrus.length < b.thrus.length || a.bytesPerSecond > b.bytesPerSecond) return false;
	if ((a.tight && !b.tight) || (a.omni && !b.omni)) return false;
	if (crosses(a.intoTrs, trs) && !crosses(b.intoTrs, trs)) return false;
	// It may have to get another device ID.
	if (a.model !== '' && a.present.deviceId !== null) return false;
	if (meters.some((meter) => meter.plain(other) > meter.plain(at) + NOISE)) return false;
	if (pricer.isBox(at)) return true;
	// Where the sum of channels is counted, a change that is saved might cost more than it brings.
	const alike = meters.some(({ rates }) => rates.channels > 0);
	return offersAll(pricer.choice(other, out), pricer.choice(at, out), alike);
}
