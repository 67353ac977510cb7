import { describe, expect, it } from 'vitest';
import { mixedStudio } from '../mixed-studio.fixture';
import { seeded } from '../studio.fixture';
import { planTask } from '../task';
import { cheapSets } from './cheap-sets';
import { Pricer } from './price';
import { reducedCost, type Rates } from './rates';
import { outClasses, setColumns, type OutClass } from './set-columns';

/** Every set of a small studio, and which of them are cheap at some rates, one by one. */
function allSets(many: number): number[][] {
	return Array.from({ length: 1 << many }, (_, mask) =>
		Array.from({ length: many }, (_, i) => i).filter((i) => mask & (1 << i))
	).slice(1);
}

describe('cheap sets', () => {
	let random = seeded(3);
	const studio = (seed: number) =>
		planTask(mixedStudio(8, 3, seed), seed % 5 === 0 ? 'studio-wide-channels' : 'shared-ports');
	/**
	 * Now and then some outs are of one TRS type and some devices of the other, an out keeps channels for the host, a
	 * device has its out, and devices weigh alike.
	 */
	const varied = (task: ReturnType<typeof studio>, seed: number): typeof task => ({
		...task,
		chain: seed % 6 === 1 ? 1 : task.chain,
		outs: task.outs.map((out, i) => ({
			...out,
			trs: seed % 3 === 1 ? 'trs-a' : null,
			reserved: (seed + i) % 3 === 0 ? [1, 2] : []
		})),
		devices: task.devices.map((device, i) => ({
			...device,
			intoTrs: (seed + i) % 2 === 0 ? 'trs-b' : null,
			model: seed % 2 === 1 ? 'Tarn' : device.model,
			present: { ...device.present, deviceId: (seed + i) % 4 === 0 ? null : i % 2 },
			thrus: (seed + i) % 3 === 0 && !device.box ? [] : device.thrus,
			lockOut: (seed + i) % 8 === 0 ? task.outs[seed % 3].id : device.lockOut,
			bytesPerSecond: seed % 4 === 0 && !device.box ? 100 : device.bytesPerSecond
		}))
	});
	/** Outs of one class are worth the same; now and then all are. */
	const ratesFor = (pricer: Pricer, classes: readonly OutClass[], outWorth: () => number): Rates => {
		const step = random() < 0.5 ? 1 : 1e-3;
		const worthOf = (most: number) => Math.round((random() * most) / step) * step;
		const nodes = () =>
			Float64Array.from(pricer.nodes, (_, i) => (pricer.isBox(i) ? -worthOf(1) : worthOf(5)));
		const same = random() < 0.5 ? nodes() : null;
		const sameOut = random() < 0.5 ? outWorth() : null;
		const outs = new Float64Array(pricer.task.outs.length);
		const worth: Float64Array[] = [];
		for (const entry of classes) {
			const [there, value] = [same ?? nodes(), sameOut ?? outWorth()];
			for (const out of entry.outs) [worth[out], outs[out]] = [there, value];
		}
		return {
			crowded: random() < 0.5 ? random() * 2 : 0,
			moves: random() * 2,
			away: random() < 0.5 ? random() : 0,
			channels: random() < 0.5 ? random() * 0.3 : 0,
			worth,
			outs
		};
	};

	it('are all found, whatever the rates and limits are', () => {
		for (let seed = 1; seed <= 400; seed++) compare(seed);
	}, 60_000);

	function compare(seed: number) {
		random = seeded(100 + seed);
		const task = varied(studio(seed), seed);
		const pricer = new Pricer(task);
		const classes = outClasses(task, true);
		const rates = ratesFor(pricer, classes, () => -random() * 3);
		const bound = ratesFor(pricer, classes, () => 0);
		const limits = seed % 2 === 0 ? [{ rates: bound, reach: -1 }] : [];
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
		const leastOf = (columns: typeof wanted) => Math.min(0, ...columns.map(costOf));
		expect(leastOf(found.columns)).toBeLessThanOrEqual(leastOf(wanted) + 1e-9);
		expect(Math.min(...found.least)).toBeCloseTo(leastOf(found.columns), 6);
		// Without members that bring nothing, and without what others can stand in for, the cheapest are found all the same.
		for (const thorough of [false, true]) {
			const options = { below: -0.5, each: Infinity, load, limits, spare: true, thorough };
			const few = cheapSets(pricer, classes, rates, options);
			expect(few.columns.length).toBeLessThanOrEqual(found.columns.length);
			expect({ seed, thorough, least: Math.min(0, ...few.columns.map(costOf)) }).toEqual({
				seed,
				thorough,
				least: expect.closeTo(leastOf(found.columns), 6)
			});
			classes.forEach((_, kind) => {
				const here = leastOf(found.columns.filter((column) => column.kind === kind));
				expect(few.least[kind]).toBeLessThanOrEqual(here + 1e-6);
			});
		}
	}

	it('says when it did not look everywhere', () => {
		const task = studio(1);
		const pricer = new Pricer(task);
		const classes = outClasses(task, false);
		const rates = ratesFor(pricer, classes, () => 0);
		const wanted = { below: 0, each: 2, load: Infinity, limits: [] };
		expect(cheapSets(pricer, classes, rates, { ...wanted, steps: 3 }).all).toBe(false);
		expect(cheapSets(pricer, classes, rates, { ...wanted, each: Infinity, most: 2 }).all).toBe(false);
		expect(cheapSets(pricer, classes, rates, wanted).all).toBe(true);
	});
});
