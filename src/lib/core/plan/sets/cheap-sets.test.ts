import { describe, expect, it } from 'vitest';
import { mixedStudio } from '../mixed-studio.fixture';
import { seeded } from '../studio.fixture';
import { planTask } from '../task';
import { cheapSets } from './cheap-sets';
import { Pricer } from './price';
import { reducedCost, type Rates } from './rates';
import { outClasses, setColumns } from './set-columns';

/** Every set of a small studio, and which of them are cheap at some rates, one by one. */
function allSets(many: number): number[][] {
	return Array.from({ length: 1 << many }, (_, mask) =>
		Array.from({ length: many }, (_, i) => i).filter((i) => mask & (1 << i))
	).slice(1);
}

describe('cheap sets', () => {
	let random = seeded(3);
	const studio = (seed: number) => planTask(mixedStudio(8, 3, seed), 'shared-ports');
	/** Now and then some outs are of one TRS type, and some devices of the other. */
	const withAdapters = (task: ReturnType<typeof studio>, seed: number): typeof task => ({
		...task,
		outs: task.outs.map((out, i) => ({ ...out, trs: (seed + i) % 4 === 0 ? 'trs-a' : null })),
		devices: task.devices.map((device, i) => ({ ...device, intoTrs: (seed + i) % 2 === 0 ? 'trs-b' : null }))
	});
	const ratesFor = (pricer: Pricer, task: ReturnType<typeof studio>): Rates => ({
		crowded: random() < 0.5 ? random() * 2 : 0,
		moves: random() * 2,
		away: random() < 0.5 ? random() : 0,
		channels: random() < 0.5 ? random() * 0.3 : 0,
		nodes: Float64Array.from(pricer.nodes, (_, i) => (pricer.isBox(i) ? -random() : random() * 5)),
		outs: new Float64Array(task.outs.length)
	});

	it('are all found, whatever the rates and limits are', () => {
		for (let seed = 1; seed <= 400; seed++) compare(seed);
	}, 60_000);

	function compare(seed: number) {
		random = seeded(100 + seed);
		const task = withAdapters(studio(seed), seed);
		const pricer = new Pricer(task);
		const classes = outClasses(task, true);
		const rates = ratesFor(pricer, task);
		const bound = ratesFor(pricer, task);
		const limits = seed % 2 === 0 ? [{ rates: bound, reach: -1 }] : [];
		classes.forEach(({ outs }) => {
			const worth = -random() * 3;
			for (const out of outs) rates.outs[out] = worth;
		});
		const load = seed % 3 === 0 ? 700 : Infinity;
		const found = cheapSets(pricer, classes, rates, { below: -0.5, each: Infinity, load, limits });
		expect(found.all).toBe(true);
		const outOf = ({ out, kind, devices }: (typeof found.columns)[number]) =>
			out >= 0 ? out : classes[kind].outs.find((other) => !devices.some((at) => pricer.homes[at] === other))!;
		const wanted = setColumns(pricer, allSets(pricer.nodes.length), classes).filter(
			(column) =>
				column.price.load <= load &&
				reducedCost(rates, outOf(column), column.devices, column.price) < -0.5 &&
				limits.every(
					(limit) => reducedCost(limit.rates, outOf(column), column.devices, column.price) < limit.reach
				)
		);
		const costOf = (column: (typeof wanted)[number]) =>
			reducedCost(rates, outOf(column), column.devices, column.price);
		// Each on some out of its class, for no more than that.
		const costs = new Map<string, number>();
		for (const column of found.columns) {
			const key = `${column.kind} ${column.devices.join()}`;
			costs.set(key, Math.min(costs.get(key) ?? Infinity, costOf(column)));
		}
		const missed = wanted.filter(
			(column) =>
				!((costs.get(`${column.kind} ${column.devices.join()}`) ?? Infinity) <= costOf(column) + 1e-9)
		);
		expect({ seed, missed }).toEqual({ seed, missed: [] });
		// None that is not cheap.
		for (const column of found.columns) expect(costOf(column)).toBeLessThan(-0.5);
		// Without members that bring nothing, the cheapest are found all the same.
		const spare = cheapSets(pricer, classes, rates, {
			below: -0.5,
			each: Infinity,
			load,
			limits,
			spare: true
		});
		classes.forEach((_, kind) => {
			const costs = wanted.filter((column) => column.kind === kind).map(costOf);
			if (costs.length > 0) expect(spare.least[kind]).toBeLessThanOrEqual(Math.min(...costs) + 1e-6);
		});
		expect(Math.min(...found.least)).toBeLessThanOrEqual(Math.min(0, ...wanted.map(costOf)) + 1e-9);
	}

	it('says when it did not look everywhere', () => {
		const task = studio(1);
		const pricer = new Pricer(task);
		const rates = ratesFor(pricer, task);
		const wanted = { below: 0, each: 2, load: Infinity, limits: [] };
		const classes = outClasses(task, false);
		expect(cheapSets(pricer, classes, rates, { ...wanted, steps: 3 }).all).toBe(false);
		expect(cheapSets(pricer, classes, rates, { ...wanted, each: Infinity, most: 2 }).all).toBe(false);
		expect(cheapSets(pricer, classes, rates, wanted).all).toBe(true);
	});
});
