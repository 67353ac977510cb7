import type { Pricer } from './price';
import type { Rates } from './rates';
import { Search } from './search';
import type { OutClass, SetColumn } from './set-columns';
import { covers, inOrder, startsOn } from './starts';
import type { Found, Wanted } from './wanted';

/**
 * The sets of devices and boxes whose reduced cost is below a limit, by branching: a branch is left as soon as what is in
 * it, with the best that could still join, cannot be cheap enough. What joins is counted at the least that it can cost.
 */
export function cheapSets(pricer: Pricer, classes: readonly OutClass[], rates: Rates, wanted: Wanted): Found {
	const columns: SetColumn[] = [];
	const least = classes.map(() => 0);
	let all = true;
	const searched: number[] = [];
	for (const kind of inOrder(pricer, classes)) {
		const { outs } = classes[kind];
		const model = wanted.thorough
			? searched.find((other) => covers(pricer, classes[other].outs[0], outs[0], rates, wanted.limits))
			: undefined;
		if (model !== undefined) {
			// A set that can be there is no dearer than here: it was found there, or is listed.
			const known = Math.min(least[model], wanted.listed?.[model] ?? 0);
			least[kind] = Math.min(0, known + rates.outs[classes[model].outs[0]] - rates.outs[outs[0]]);
		}
		for (const start of startsOn(pricer, outs, model === undefined ? null : classes[model].outs[0])) {
			const found = new Search(pricer, rates, wanted, kind, outs, start, columns.length > 0).run();
			for (const { column, value } of found.best) {
				columns.push(column);
				if (value < least[kind]) least[kind] = value;
			}
			all &&= found.all;
			// A look that was cut short goes on with the next.
			const short = wanted.steps !== undefined || (wanted.patience !== undefined && columns.length > 0);
			if ((!all && !short) || columns.length > (wanted.most ?? Infinity) || wanted.over?.())
				return { columns, least, all: false };
		}
		searched.push(kind);
	}
	return { columns, least, all };
}
