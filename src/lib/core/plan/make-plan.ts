import type { Highs } from 'highs';
import { WIRE_BYTES_PER_SECOND } from '../midi';
import { Problem } from '../problem';
import type { Rig } from '../rig';
import { asksOf } from './asks';
import { assemble } from './assemble';
import { checkPlan } from './check-plan';
import { solveCompact } from './compact-solve';
import { countGoals } from './count-goals';
import { explain } from './explain';
import { keepPlayers, leftWords } from './keep-players';
import type { GoalResult, Layout, SolveOptions, Solved } from './layout';
import type { Plan } from './plan';
import type { Goals, Policy } from './policy';
import { solveBySets } from './sets/set-solve';
import type { Ends } from './sockets';
import { Solver } from './solver';
import { planSteps } from './steps';
import { planTask, type PlanTask } from './task';
import { findHelp } from './unplaced';

export interface PlanOptions extends SolveOptions {
	policy: Policy;
	/** Shown every better plan that keeps all rules, before it is proved. */
	onPlan?(plan: Plan): void;
}

/** Solves a task by the programme that suits it. */
export const solveTask = (task: PlanTask, solver: Solver): Solved | null =>
	solveBySets(task, solver) ?? solveCompact(task, solver);

/** Sockets of devices and boxes as the plan uses them. */
export function endsOf(task: PlanTask): Map<string, Ends> {
	return new Map<string, Ends>([
		...task.devices.map(({ id, into, back }): [string, Ends] => [
			id,
			{ into, back, merge: [], mergeOut: null }
		]),
		...task.merges.map(({ id, sockets, out }): [string, Ends] => [
			id,
			{ into: null, back: null, merge: sockets, mergeOut: out }
		]),
		...task.direct.map(({ id }): [string, Ends] => [
			id,
			{ into: null, back: null, merge: [], mergeOut: null }
		])
	]);
}

/**
 * The best plan for a rig under a policy: solved exactly where time allows, else with the bound it is within. Every rule
 * and every goal is looked at anew before a plan is given out; one that is not what it says is solved again in another
 * way, and never shown.
 * Equal rigs give equal plans as long as the solver ends before its time.
 * @throws Problem `plan.no-interface`, `plan.slip`
 */
export function makePlan(highs: Highs, rig: Rig, options: PlanOptions): Plan {
	const { rig: mayChange, left } = keepPlayers(rig);
	const task = planTask(mayChange, options.policy);
	const finish = (solved: Solved | null, solver: Solver, draft = false): Plan => {
		const plan = finishPlan({ rig: mayChange, whole: rig }, task, solved, solver, began, draft);
		return { ...plan, asks: [...left.map((one) => leftWords(rig, one)), ...plan.asks] };
	};
	const began = options.now();
	let faults: string[] = [];
	for (const other of [false, true]) {
		const { onPlan } = options;
		// Drafts are made only where somebody looks at them.
		const onFound: SolveOptions['onFound'] = onPlan
			? (layout, goals) => {
					const sofar: Solved = { layout, goals: [...goals], cancelled: false };
					const draft = finish(sofar, solver, true);
					if (checkPlan(rig, draft).faults.length === 0) onPlan(draft);
				}
			: undefined;
		const solver: Solver = new Solver(highs, { ...options, onFound }, other);
		const solved = other ? solveCompact(task, solver) : solveTask(task, solver);
		const plan = finish(solved, solver);
		({ faults } = checkPlan(rig, plan));
		const differs = (solved?.goals ?? []).filter(
			({ goal, value }) => Math.abs(value - plan.goals[goal]) > 1e-6
		);
		faults.push(
			...differs.map(
				({ goal, value }) => `The solver says ${value} for “${goal}”, the plan has ${plan.goals[goal]}.`
			)
		);
		if (faults.length === 0) return plan;
	}
	throw new Problem(
		'plan.slip',
		'The plan that was found is not what the solver says of it, in two ways of looking. It is not shown.',
		'Send the rig as a file to whoever looks after Silent Drawer, or change a lock or a wish and plan again.',
		{ faults }
	);
}

/** As much of the results as is proved: none counts while an earlier one is open. */
function provedOf(results: readonly GoalResult[]): GoalResult['goal'][] {
	const open = results.findIndex(({ proved }) => !proved);
	return results.slice(0, open < 0 ? undefined : open).map(({ goal }) => goal);
}

/**
 * @param draft what is not decided yet is not explained either
 * @param whole the rig with the cables, too, that the plan leaves alone
 */
function finishPlan(
	{ rig, whole }: { rig: Rig; whole: Rig },
	task: PlanTask,
	solved: Solved | null,
	solver: Solver,
	began: number,
	draft = false
): Plan {
	const layout: Layout = solved?.layout ?? {
		feeds: new Map(),
		boxes: new Map(),
		backs: new Map(),
		merges: new Map(),
		direct: new Map()
	};
	const assembled = assemble(task, layout);
	const { assignments, boxes, plugs, unplaced } = assembled;
	const loads = task.outs.map(({ id }) => {
		const bytesPerSecond = task.devices.reduce(
			(sum, device) => sum + (layout.feeds.get(device.id)?.out === id ? device.bytesPerSecond : 0),
			0
		);
		return { port: id, bytesPerSecond, share: bytesPerSecond / WIRE_BYTES_PER_SECOND };
	});
	const goals: Goals = countGoals(rig, { policy: task.policy, ...assembled });
	const results = solved?.goals ?? [];
	const open = results.find(({ proved }) => !proved);
	return {
		status: unplaced.length > 0 && !draft ? 'infeasible' : draft || open || !solved ? 'feasible' : 'optimal',
		gap: open && open.value > 0 ? Math.max(0, (open.value - open.bound) / open.value) : 0,
		policy: task.policy,
		assignments,
		boxes,
		plugs,
		asks: asksOf(rig, task, assembled),
		unplaced: draft
			? unplaced.map((device) => ({ device, because: ['no place was found for it yet'], wouldHelp: [] }))
			: findHelp(rig, task, unplaced, solver),
		moves: goals.moves,
		loads,
		goals,
		proved: provedOf(results),
		why: draft ? {} : explain(rig, task, layout, assignments),
		steps: planSteps(whole, assembled, endsOf(task)),
		took: { ms: solver.options.now() - began, proofMs: solver.proofMs },
		cancelled: solved?.cancelled ?? solver.cancelled
	};
}
