import { readFileSync } from 'node:fs';
import type { Highs } from 'highs';
import { describe, expect, it } from 'vitest';
import { rigSchema, type Rig } from '../rig';
import { bruteForce } from './brute.fixture';
import { solveCompact } from './compact-solve';
import { checkPlan, makePlan } from './index';
import { planner, POLICY_NAMES } from './planner.fixture';
import type { Milp, MilpData } from './milp';
import { mixedStudio } from './mixed-studio.fixture';
import { solveBySets } from './sets/set-solve';
import { smallStudio } from './small-studio.fixture';
import { Solver, type Run, type RunOptions } from './solver';
import { madeStudio } from './studio.fixture';
import { planTask } from './task';

const tools = planner();
const { plan } = tools;

describe('a proof', () => {
	const caseOf = (name: string): Rig =>
		rigSchema.parse(JSON.parse(readFileSync(new URL(`cases/${name}.rig.json`, import.meta.url), 'utf8')));

	it('does not rest on what the solver cut off before it began', () => {
		const found = plan(caseOf('plan-proof'), 'studio-wide-channels');
		expect(found).toMatchObject({ status: 'optimal', goals: { busiest: 100, channels: 10 } });
		expect(found.proved).toHaveLength(6);
	});

	it('counts those without a place as they are listed', () => {
		const rig = caseOf('plan-count');
		const found = plan(rig, 'shared-ports');
		expect(found.unplaced).toHaveLength(found.goals.unplaced);
		expect(checkPlan(rig, found).faults).toEqual([]);
	});

	/** Finds no best plan, as a solver does that cuts too much off; asked the other way it is right. */
	class Cutting extends Solver {
		cuts = 0;
		override run(milp: Milp, options: RunOptions): Run {
			if (options.relaxed || options.anew) return super.run(milp, options);
			const first = super.run(milp, options);
			if (!first.values || options.goal.size === 0) return first;
			const value = (values: Float64Array) =>
				[...options.goal].reduce((sum, [column, factor]) => sum + factor * values[column], 0);
			const worse = super.run(
				milp.with((programme) => programme.row(options.goal, value(first.values!) + 1, Infinity)),
				options
			);
			if (!worse.values) return first;
			this.cuts++;
			return worse;
		}
	}

	/** Is out of time once it was asked for it so often. */
	class Hasty extends Solver {
		looks = 0;
		constructor(
			highs: Highs,
			readonly most: number
		) {
			super(highs, { seconds: 60, now: () => performance.now() });
		}
		override part(): Solver {
			return this;
		}
		override get over(): boolean {
			return ++this.looks > this.most;
		}
		override run(milp: Milp, options: RunOptions): Run {
			const late = this.looks > this.most;
			return late
				? { status: 'stopped', values: null, bound: -Infinity, reduced: null, multipliers: null }
				: super.run(milp, options);
		}
	}

	it.each(['shared-ports', 'studio-wide-channels'] as const)(
		'never says more than it had time for: %s',
		(policy) => {
			for (const [devices, outs, seed] of [
				[9, 3, 6],
				[12, 4, 3]
			]) {
				const task = planTask(mixedStudio(devices, outs, seed), policy);
				const patient = new Hasty(tools.highs, Infinity);
				const best = solveBySets(task, patient)!.goals;
				expect(best.every(({ proved }) => proved)).toBe(true);
				const stops = Array.from({ length: 16 }, (_, i) => Math.ceil(((i + 1) * patient.looks) / 17));
				for (const most of new Set(stops)) {
					const goals = solveBySets(task, new Hasty(tools.highs, most))?.goals ?? [];
					const open = goals.findIndex(({ value }, i) => value !== best[i].value);
					// The first that is not as good as can be: later ones have more room.
					for (const [i, { goal, value, bound, proved }] of goals.entries()) {
						if (open >= 0 && i > open) break;
						const says = {
							seed,
							most,
							goal,
							proved: proved && value > best[i].value,
							beyond: bound > best[i].value
						};
						expect(says).toEqual({ seed, most, goal, proved: false, beyond: false });
						expect(value).toBeGreaterThanOrEqual(best[i].value);
					}
				}
			}
		},
		120_000
	);

	/** Calls everything impossible that it is asked in the usual way, once there is a plan. */
	class Denying extends Solver {
		override run(milp: Milp, options: RunOptions): Run {
			const usual = !options.relaxed && !options.anew && options.goal.size === 0;
			return usual
				? { status: 'infeasible', values: null, bound: Infinity, reduced: null, multipliers: null }
				: super.run(milp, options);
		}
	}

	it.each([
		['cuts the best off', Cutting],
		['denies what is possible', Denying]
	])(
		'is not believed of a solver that %s',
		(_, Lying) => {
			let [cuts, proofs] = [0, 0];
			for (let seed = 1; seed <= 15; seed++)
				for (const policy of POLICY_NAMES) {
					const rig = smallStudio(seed);
					const task = planTask(rig, policy);
					const best = bruteForce(rig, policy);
					for (const solve of [solveCompact, solveBySets]) {
						const solver = new Lying(tools.highs, { seconds: 60, now: () => performance.now() });
						const solved = solve(task, solver);
						for (const { goal, value, proved } of solved?.goals ?? []) {
							if (!proved) break;
							proofs++;
							expect({ seed, policy, goal, value }).toEqual({ seed, policy, goal, value: best[goal] });
						}
						if (solver instanceof Cutting) cuts += solver.cuts;
					}
				}
			expect(proofs).toBeGreaterThan(200);
			if (Lying === Cutting) expect(cuts).toBeGreaterThan(40);
		},
		240_000
	);

	it('is asked for in vain where the plan is not what the solver says: nothing is shown', () => {
		// Every programme that is solved has one socket for all: chains come out that nobody can plug.
		const careless: Highs = {
			...tools.highs,
			constants: tools.highs.constants,
			withModel: ((data: Parameters<Highs['withModel']>[0], work: Parameters<Highs['withModel']>[1]) =>
				tools.highs.withModel(
					{
						...data,
						rowUpper: (data as MilpData).rowUpper.map((limit) => (limit === 1 ? 9 : limit))
					} as typeof data,
					work
				)) as Highs['withModel']
		};
		const rig = madeStudio(4, 2, 5);
		expect(() =>
			makePlan(careless, rig, { policy: 'port-per-instrument', seconds: 20, now: () => performance.now() })
		).toThrow('It is not shown');
	});
});
