import loadHighs, { type Highs } from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { solveCompact } from '../compact-solve';
import type { Solved } from '../layout';
import { mixedStudio } from '../mixed-studio.fixture';
import { Solver } from '../solver';
import { madeStudio } from '../studio.fixture';
import { planTask } from '../task';
import { firstAssignment, improve, measure, MEASURES } from './improve';
import { Pricer } from './price';
import { outClasses, setColumns } from './set-columns';
import { solveBySets } from './set-solve';

let highs: Highs;
beforeAll(async () => {
	highs = await loadHighs();
});
const solver = () => new Solver(highs, { seconds: 60, now: () => performance.now() });
const taskOf = (devices: number, outs: number, seed: number, cabled = 0.6) =>
	planTask(madeStudio(devices, outs, seed, cabled), 'shared-ports');

const valuesOf = (solved: Solved) =>
	Object.fromEntries(solved.goals.map(({ goal, value, proved }) => [goal, [value, proved]]));

it('both programmes find the same best goals', () => {
	for (let seed = 1; seed <= 8; seed++) {
		const task = taskOf(8 + (seed % 4), 4, seed);
		const [sets, compact] = [solveBySets(task, solver())!, solveCompact(task, solver())!];
		expect({ seed, goals: valuesOf(sets) }).toEqual({ seed, goals: valuesOf(compact) });
	}
}, 120_000);

it('both find them with boxes, wide thru sockets, loose channels and locks too', () => {
	for (let seed = 1; seed <= 6; seed++) {
		const task = planTask(mixedStudio(9, 4, seed), 'shared-ports');
		const [sets, compact] = [solveBySets(task, solver())!, solveCompact(task, solver())!];
		expect({ seed, goals: valuesOf(sets) }).toEqual({ seed, goals: valuesOf(compact) });
	}
}, 120_000);

it('proves studios with everything in them', () => {
	for (const seed of [3, 6, 9]) {
		const solved = solveBySets(planTask(mixedStudio(24, 8, seed), 'shared-ports'), solver())!;
		expect({ seed, open: solved.goals.filter(({ proved }) => !proved) }).toEqual({ seed, open: [] });
	}
}, 120_000);

it('both find them with channels of the whole studio, some of them kept for the host', () => {
	for (let seed = 1; seed <= 6; seed++) {
		const rig = mixedStudio(9, 4, seed);
		for (const host of rig.hosts) for (const [i, port] of host.ports.entries()) port.reserved = i % 2 ? 1 : 3;
		const task = planTask(rig, 'studio-wide-channels');
		const [sets, compact] = [solveBySets(task, solver())!, solveCompact(task, solver())!];
		expect({ seed, goals: valuesOf(sets) }).toEqual({ seed, goals: valuesOf(compact) });
	}
}, 120_000);

it('leaves a port for each instrument to the compact programme', () => {
	expect(solveBySets({ ...taskOf(6, 3, 1), policy: 'port-per-instrument' }, solver())).toBeNull();
});

/** Sets of up to three of the first so many. */
const setsOf = (many: number): number[][] => {
	const all = Array.from({ length: many }, (_, i) => i);
	return [
		...all.map((i) => [i]),
		...all.flatMap((i) => all.filter((j) => j > i).map((j) => [i, j])),
		...all.flatMap((i) => all.flatMap((j) => all.filter((k) => k > j && j > i).map((k) => [i, j, k])))
	];
};

describe('the price of a set', () => {
	const task = taskOf(10, 4, 4);
	const pricer = new Pricer(task);

	it('is that of its best order and channels, whatever is tried', () => {
		const { devices } = pricer;
		const orders = (set: number[]): number[][] =>
			set.length === 0
				? [[]]
				: set.flatMap((i) => orders(set.filter((other) => other !== i)).map((rest) => [i, ...rest]));
		for (const set of setsOf(devices.length))
			for (let out = 0; out < task.outs.length; out++) {
				const lines = orders(set).filter((order) =>
					order.slice(0, -1).every((i) => devices[i].thrus.length > 0)
				);
				const price = pricer.price(out, set);
				const alone = set.length === 1 || set.every((i) => !devices[i].omni);
				if (lines.length === 0 || !alone) {
					expect(price).toBeNull();
					continue;
				}
				const kept = Math.max(...lines.map((order) => (pricer.homes[order[0]] === out ? 1 : 0)));
				let least = Infinity;
				const assign = (at: number, taken: number[], changed: number) => {
					if (at === set.length) least = Math.min(least, changed);
					else
						for (const block of devices[set[at]].blocks)
							if (!block.some((channel) => taken.includes(channel)))
								assign(
									at + 1,
									[...taken, ...block],
									changed + (block.join() === devices[set[at]].present.channels.join() ? 0 : 1)
								);
				};
				assign(0, [], 0);
				expect(price!.moves).toBe(set.length - kept + least);
				expect(price!.load).toBe(set.reduce((sum, i) => sum + devices[i].bytesPerSecond, 0));
				const channels = pricer.given(out, set)!.channels.flat();
				expect(new Set(channels).size).toBe(channels.length);
			}
	});

	it('sends a set to the out where a cable stays, and nowhere else in its class when that saves a move', () => {
		const classes = outClasses(task, false);
		const columns = setColumns(pricer, setsOf(pricer.devices.length), classes);
		for (const { devices, out, price, kind } of columns) {
			if (out < 0) continue;
			expect(devices.some((i) => pricer.homes[i] === out)).toBe(true);
			const fresh = classes[kind].outs.find((other) => !devices.some((i) => pricer.homes[i] === other));
			if (fresh !== undefined) expect(price.moves).toBeLessThan(pricer.price(fresh, devices)!.moves);
		}
	});

	it('is told apart for every set on every out, also where no two outs are alike', () => {
		const rig = madeStudio(40, 24, 3);
		const task = planTask(rig, 'shared-ports');
		// Every out keeps another channel to itself, so that each is of a kind of its own.
		const outs = task.outs.map((out, i) => ({ ...out, place: `p${i}`, reserved: [1 + (i % 16)] }));
		const asked = new Pricer({ ...task, outs });
		const all = asked.devices.map((_, i) => i);
		const sets = [
			[],
			...all.map((i) => [i]),
			...all.slice(1).map((i) => [i - 1, i]),
			...all.slice(2).map((i) => [i - 2, i - 1, i])
		];
		outs.forEach((_, out) => {
			for (const set of sets) {
				// Asked alone, nothing can be taken for something else.
				const fresh = out % 6 === 0 ? new Pricer({ ...task, outs }).price(out, set) : undefined;
				const price = asked.price(out, set);
				if (fresh !== undefined) expect(price).toEqual(fresh);
				if (price)
					expect(
						asked
							.hang(out, set)
							.map(({ at }) => at)
							.toSorted((a, b) => a - b)
					).toEqual(set);
			}
		});
	});
});

describe('bettering a plan', () => {
	const task = taskOf(16, 6, 9, 0.4);
	const pricer = new Pricer(task);
	const wanted = pricer.devices.map((_, i) => i);
	const fits = () => true;
	const start = firstAssignment(pricer, wanted, fits);
	const measured = (assignment: number[][]) => measure(pricer, assignment, wanted.length);

	it.each(MEASURES.map((goal, at) => [goal, at] as const))(
		'never makes an earlier goal worse: %s',
		(_, at) => {
			const before = measured(start);
			const after = measured(improve(pricer, start, wanted, { at, notch: 1, goal: 0, tries: 5000, fits }));
			expect(after.slice(0, at).every((value, i) => value <= before[i])).toBe(true);
			expect(after[at] <= before[at] || after.slice(0, at).some((value, i) => value < before[i])).toBe(true);
		}
	);

	it('finds the same again, keeps every device, and stops when it has what it was sent for', () => {
		const options = { at: 2, notch: 1, goal: 0, tries: 5000, fits };
		const found = improve(pricer, start, wanted, options);
		expect(improve(pricer, start, wanted, options)).toEqual(found);
		expect(found.flat().sort((a, b) => a - b)).toEqual(start.flat().sort((a, b) => a - b));
		expect(improve(pricer, start, wanted, { ...options, goal: 1000 })).toEqual(start.map((set) => [...set]));
	});

	it('brings every load below a target that can be reached', () => {
		const target = Math.max(...start.map((set, out) => pricer.price(out, set)!.load));
		const found = improve(pricer, start, wanted, { at: 3, notch: 20, goal: 0, target, tries: 2000, fits });
		expect(measured(found)[3]).toBeLessThanOrEqual(target);
	});
});
