import { absolute } from './likelihood';
import type { Series, Value } from './series';

/** The fine half of a controller 0–31 is the one 32 above (MIDI 1.0, table III). */
const FINE = 32;
/** Both halves of a value leave a control one right after the other. */
const TOGETHER_MS = 6;
const APART = Math.log(0.03);
const TOGETHER = Math.log(0.94);

/** Which half leaves first, and whether the coarse one is told again where it has not changed. */
const WAYS = [
	{ coarseFirst: true, always: true },
	{ coarseFirst: false, always: true },
	{ coarseFirst: true, always: false }
] as const;
type Way = (typeof WAYS)[number];

/** Two controls that are moved at once speak in any order, each as often as it does. */
function anyOrder(...counts: number[]): number {
	const all = counts.reduce((sum, count) => sum + count, 0);
	return counts.reduce((sum, count) => sum + count * Math.log(count / all), 0);
}

export interface FinePair {
	coarse: Series;
	fine: Series;
	values: Value[];
	messages: number;
	/** By how much two halves of one control are likelier than two controls, as a natural logarithm. */
	margin: number;
}

/** Both halves as values, and how likely their order is. */
function joined(
	coarse: Series,
	fine: Series,
	{ coarseFirst, always }: Way
): { values: Value[]; order: number } {
	const all = [
		...coarse.values.map((value) => ({ ...value, isCoarse: true })),
		...fine.values.map((value) => ({ ...value, isCoarse: false }))
	].sort((a, b) => a.at - b.at);
	const values: Value[] = [];
	let order = 0;
	let [high, low] = [coarse.values[0].value, fine.values[0].value];
	all.forEach(({ at, atMs, value, isCoarse }, i) => {
		const news = !isCoarse || i === 0 || value !== high;
		if (isCoarse) high = value;
		else low = value;
		const [before, next] = [all[i - 1], all[i + 1]];
		const leads = isCoarse === coarseFirst;
		if (leads && next && next.isCoarse !== isCoarse && next.atMs - atMs <= TOGETHER_MS) {
			order += always || news ? TOGETHER : APART;
			return;
		}
		const follows = before && before.isCoarse !== isCoarse && atMs - before.atMs <= TOGETHER_MS;
		order += !leads && (follows || !always) ? TOGETHER : APART;
		values.push({ at, atMs, value: (high << 7) | low });
	});
	return { values, order };
}

/** Whether two controllers, 32 apart on one channel, are halves of one value. */
function pairOf(coarse: Series, fine: Series): FinePair {
	const apart =
		absolute(coarse.values) + absolute(fine.values) + anyOrder(coarse.values.length, fine.values.length);
	const [best] = WAYS.map((way) => {
		const { values, order } = joined(coarse, fine, way);
		return { values, likely: absolute(values, 16384) + order };
	}).sort((a, b) => b.likely - a.likely);
	return {
		coarse,
		fine,
		values: best.values,
		messages: coarse.messages + fine.messages,
		margin: best.likely - apart
	};
}

/** Controllers that are the halves of 14-bit values. */
export function finePairs(series: readonly Series[]): FinePair[] {
	const controllers = series.filter(({ kind }) => kind === 'cc');
	return controllers
		.filter(({ number }) => number! < FINE)
		.flatMap((coarse) => {
			const fine = controllers.find(
				({ channel, number }) => channel === coarse.channel && number === coarse.number! + FINE
			);
			if (!fine) return [];
			const pair = pairOf(coarse, fine);
			return pair.margin > 0 ? [pair] : [];
		});
}
