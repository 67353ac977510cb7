import type { Highs } from 'highs';
import { WIRE_BYTES_PER_SECOND } from '../midi';
import { indexRig, type Rig } from '../rig';
import { solveCompact } from './compact-solve';
import { countGoals } from './count-goals';
import { explain } from './explain';
import type { Layout, SolveOptions, Solved } from './layout';
import type { Plan, PlanAssignment, PlanBox } from './plan';
import type { Goals, Policy } from './policy';
import { solveBySets } from './sets/set-solve';
import type { Ends } from './sockets';
import { Solver } from './solver';
import { planSteps } from './steps';
import { planTask, type PlanTask } from './task';
import { findHelp } from './unplaced';

export interface PlanOptions extends SolveOptions {
	policy: Policy;
}

/** Solves a task by the programme that suits it. */
export const solveTask = (task: PlanTask, solver: Solver): Solved | null =>
	solveBySets(task, solver) ?? solveCompact(task, solver);

/** New device IDs: of one model with one ID on an out, all but the first get the lowest that is free in the studio. */
function newDeviceIds(rig: Rig, task: PlanTask, layout: Layout): Map<string, number> {
	const ids = new Map<string, number>();
	const { settings } = indexRig(rig);
	const taken = (model: string) =>
		new Set([
			...rig.devices.filter((device) => device.model === model).map(({ id }) => settings.get(id)?.deviceId),
			...[...ids]
				.filter(([id]) => rig.devices.find((device) => device.id === id)?.model === model)
				.map(([, id]) => id)
		]);
	const heard = new Set<string>();
	for (const { id, model, present } of task.devices) {
		const feed = layout.feeds.get(id);
		if (!feed || model === '' || present.deviceId === null) continue;
		const key = `${feed.out} ${model} ${present.deviceId}`;
		if (heard.has(key)) {
			let free = 0;
			while (taken(model).has(free)) free++;
			ids.set(id, free);
		}
		heard.add(key);
	}
	return ids;
}

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
 * The best plan for a rig under a policy: solved exactly where time allows, else with the bound it is within.
 * Equal rigs give equal plans as long as the solver ends before its time.
 * @throws Problem `plan.no-interface`
 */
export function makePlan(highs: Highs, rig: Rig, options: PlanOptions): Plan {
	const task = planTask(rig, options.policy);
	const solver = new Solver(highs, options);
	const solved = solveTask(task, solver);
	return finishPlan(rig, task, solved, solver);
}

function finishPlan(rig: Rig, task: PlanTask, solved: Solved | null, solver: Solver): Plan {
	const layout: Layout = solved?.layout ?? {
		feeds: new Map(),
		boxes: new Map(),
		backs: new Map(),
		merges: new Map(),
		direct: new Map()
	};
	const ids = newDeviceIds(rig, task, layout);
	const assignments: PlanAssignment[] = [];
	const unplaced: string[] = [];
	for (const device of task.devices) {
		if (device.box) continue;
		const feed = layout.feeds.get(device.id);
		const back = layout.backs.get(device.id);
		if ((device.into !== null && !feed) || (device.back !== null && !back) || device.noOut) {
			unplaced.push(device.id);
			continue;
		}
		assignments.push({
			device: device.id,
			out: feed?.out ?? null,
			in: back?.in ?? null,
			channels: feed?.channels ?? [],
			hop: feed?.hop ?? 0,
			via: feed?.via ?? null,
			merge: back?.merge ?? null,
			deviceId: ids.get(device.id) ?? null
		});
	}
	for (const { id, port, present: channels } of task.direct)
		assignments.push({
			device: id,
			out: port,
			in: port,
			channels: layout.direct.get(id) ?? channels,
			hop: 1,
			via: null,
			merge: null,
			deviceId: null
		});
	const order = new Map(rig.devices.map(({ id }, i) => [id, i]));
	assignments.sort((a, b) => order.get(a.device)! - order.get(b.device)!);
	const boxes: PlanBox[] = [
		...[...layout.boxes].map(([device, { out, hop, via }]) => ({ device, out, in: null, hop, via })),
		...[...layout.merges].map(([device, into]) => ({ device, out: null, in: into, hop: 0, via: null }))
	];
	const loads = task.outs.map(({ id }) => {
		const bytesPerSecond = task.devices.reduce(
			(sum, device) => sum + (layout.feeds.get(device.id)?.out === id ? device.bytesPerSecond : 0),
			0
		);
		return { port: id, bytesPerSecond, share: bytesPerSecond / WIRE_BYTES_PER_SECOND };
	});
	const results = solved?.goals ?? [];
	const counted = countGoals(rig, { policy: task.policy, assignments, boxes, unplaced });
	// A goal that was not proved is counted by hand: the solver may have been stopped between two plans.
	for (const result of results) if (!result.proved) result.value = counted[result.goal];
	const goals: Goals = {
		...counted,
		...Object.fromEntries(results.map(({ goal, value }) => [goal, value])),
		broken: 0
	};
	const open =
		results.find(({ proved, value, bound }) => !proved && value > bound) ??
		results.find(({ proved }) => !proved);
	return {
		status: unplaced.length > 0 ? 'infeasible' : open || !solved ? 'feasible' : 'optimal',
		gap: open && open.value > 0 ? Math.max(0, (open.value - open.bound) / open.value) : 0,
		policy: task.policy,
		assignments,
		boxes,
		unplaced: findHelp(rig, task, unplaced, solver),
		moves: goals.moves,
		loads,
		goals,
		proved: results.filter(({ proved }) => proved).map(({ goal }) => goal),
		why: explain(rig, task, layout, assignments),
		steps: planSteps(rig, { assignments, boxes, unplaced }, endsOf(task)),
		cancelled: solved?.cancelled ?? solver.cancelled
	};
}
