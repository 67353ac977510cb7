import type { Milp, Terms } from './milp';
import type { Solver } from './solver';

const EPSILON = 1e-6;

/** One goal of a planner, in whole numbers: the goals before it are held by the programme. */
export interface OneGoal {
	milp: Milp;
	/** What is to be least: the sum of these, and so much more. */
	terms: Terms;
	plus: number;
	/** No value below it exists, by counting alone. */
	floor: number;
	/** The goals before it are proved. Else what would be best in this one is not known, and nothing is shown of it. */
	settled: boolean;
	/** For all looking together. */
	seconds: number;
	/** The value of the best plan that is known, counted apart from the programme. */
	value(): number;
	/** That plan as a solution. */
	begin(): Float64Array;
	/** Reads a solution, and keeps it where it is better. */
	take(values: Float64Array): void;
}

/** What was shown of a goal. */
export interface ShownOfGoal {
	/** No plan that is as good in the goals before comes below it; by one's own arithmetic, never by the solver's word alone. */
	bound: number;
	/**
	 * `counted`: the bound and the value meet; `twice`: the solver found nothing better in two ways of looking, neither of
	 * which it took back.
	 */
	proof: 'counted' | 'twice' | null;
}

/** What counting alone shows of a goal. @param floor no value below it exists */
export const shownByCounting = (value: number, floor: number, settled: boolean): ShownOfGoal => ({
	bound: Math.min(floor, value),
	proof: settled && value <= floor ? 'counted' : null
});

/** Whether some goals are better than others: the first in which they differ says. */
export function isBetter<Goal extends string>(
	order: readonly Goal[],
	a: Record<Goal, number>,
	b: Record<Goal, number>
): boolean {
	const goal = order.find((each) => a[each] !== b[each]);
	return goal !== undefined && a[goal] < b[goal];
}

/**
 * Looks for the least value of a goal, and for a proof that there is none below. Where the solver says that there is nothing
 * better it looks again another way; what it finds then is taken, and what it said first is worth nothing: both ways must then
 * find that nothing is left.
 */
export function lookFor(solver: Solver, goal: OneGoal): ShownOfGoal {
	const { milp, terms, plus, settled, seconds } = goal;
	const counted = shownByCounting(goal.value(), goal.floor, settled);
	if (counted.proof || solver.over) return counted;
	let bound = goal.floor;
	const shown = (proof: ShownOfGoal['proof']): ShownOfGoal => ({
		bound: proof ? goal.value() : Math.min(bound, goal.value()),
		proof
	});
	if (settled) {
		const { bound: low } = solver.run(milp, { goal: terms, relaxed: true, seconds: seconds * 0.2 });
		bound = Math.max(bound, Math.ceil(low + plus - EPSILON));
		if (goal.value() <= bound) return shown('counted');
	}
	const run = solver.run(milp, { goal: terms, begin: goal.begin(), seconds: seconds * 0.6 });
	if (run.values) goal.take(run.values);
	if (!settled) return shown(null);
	for (let denied = false; ;) {
		const best = goal.value();
		if (best <= bound) return shown('counted');
		// That there is no plan at all is no proof: there is one. It is a slip.
		if (run.status !== 'optimal' || solver.over) return shown(null);
		const below = milp.with((programme) => programme.atMost(terms, best - plus - 1));
		const look = (anew: boolean) =>
			solver.run(below, { goal: terms, anew, seconds: Math.min(seconds, solver.leftSeconds) * 0.6 });
		const again = look(true);
		if (again.status === 'infeasible')
			return shown(!denied || look(false).status === 'infeasible' ? 'twice' : null);
		if (again.values) goal.take(again.values);
		denied = true;
		if (goal.value() === best) return shown(null);
	}
}
