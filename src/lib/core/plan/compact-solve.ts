import { recount } from './assemble';
import type { GoalResult, Layout, Solved } from './layout';
import { NO_GOAL, type Milp } from './milp';
import { planModel, bestAlone, chosenChannels, type PlanModel } from './model';
import type { Goals } from './policy';
import { readBeside } from './sets/beside';
import type { Run, Solver } from './solver';
import type { Candidate, PlanTask } from './task';

const EPSILON = 1e-6;

/**
 * Solves a task as one programme, goal after goal, each holding all earlier ones at their best.
 * Takes every task: thru boxes, wide thru sockets, loose channels, and the policies without shared ports.
 */
export function solveCompact(task: PlanTask, solver: Solver): Solved | null {
	const model = planModel(task);
	const read = (values: Float64Array): Found => {
		const layout = readLayout(task, model, values);
		return { values, layout, counted: recount(task, layout) };
	};
	let found: Found | null = null;
	const goals: GoalResult[] = [];
	for (const programme of model.goals) {
		const { goal, terms, constant } = programme;
		const step = goal === 'busiest' ? (model.whole ? model.step : 1e-3) : 1;
		const stage = new Stage(solver, model.milp, { ...programme, step }, (best, bound) =>
			solver.options.onProgress?.({
				goal,
				proved: goals.filter(({ proved }) => proved).length,
				of: model.goals.length,
				best,
				bound
			})
		);
		const result = stage.solve(found, read);
		if (!result) return null;
		const value = result.found.counted[goal];
		found = result.found;
		goals.push({ goal, value, bound: result.bound, proved: result.proved });
		solver.options.onFound?.(found.layout, goals);
		model.milp.atMost(terms, value - constant + EPSILON);
	}
	return found && { layout: found.layout, goals, cancelled: solver.cancelled };
}

/** A solution of the programme, with what it counts as. */
interface Found {
	values: Float64Array;
	layout: Layout;
	counted: Goals;
}

/** One goal of the programme: its best value, and the proof that there is no better one. */
class Stage {
	constructor(
		readonly solver: Solver,
		readonly milp: Milp,
		readonly goal: PlanModel['goals'][number] & { step: number },
		readonly report: (best: number | null, bound: number | null) => void
	) {}

	/**
	 * The best value, counted from the plan. It is proved where a bound of one's own meets it, or where nothing better
	 * exists in two ways of looking: as usual, and without simplifying anything, in another order.
	 * @param before the plan so far, which keeps all earlier goals
	 * @returns `null` where there is no plan at all
	 */
	solve(
		before: Found | null,
		read: (values: Float64Array) => Found
	): { found: Found; bound: number; proved: boolean } | null {
		const { solver, report } = this;
		const { goal, terms } = this.goal;
		let found = before;
		let sought = false;
		/** Ways of looking in which nothing better was not found yet: the usual one has said so by its own search. */
		let proofs: readonly boolean[] = [true];
		// Where there is no plan yet, or the bound is not met: the best that the solver finds.
		const seek = () => {
			const run = this.#least(found);
			sought = run.status !== 'stopped';
			// There is a plan: that there is none is no proof, but a slip.
			if (run.status === 'infeasible') proofs = [false, true];
			const next = run.values && read(run.values);
			if (next && (!found || next.counted[goal] < found.counted[goal])) found = next;
			return sought;
		};
		if (!found) seek();
		if (!found) return null;
		for (let bound = 0; ;) {
			const value: number = (found as Found).counted[goal];
			// What is nought already cannot be less.
			if (terms.size === 0 || value === 0) return { found, bound: value, proved: true };
			if (solver.over) return { found, bound: Math.min(value, bound), proved: false };
			if (bound === 0) bound = Math.max(0, this.#ownBound());
			report(value, Math.min(value, bound));
			if (bound >= value - EPSILON) return { found, bound: value, proved: true };
			if (!sought) {
				if (!seek()) return { found, bound: Math.min((found as Found).counted[goal], bound), proved: false };
				continue;
			}
			const better = this.#better(value, proofs);
			if (better === 'none') return { found, bound: value, proved: true };
			const next = better === 'unknown' ? null : read(better);
			// A solution that is not what the solver says of it proves nothing.
			if (!next || next.counted[goal] >= value)
				return { found, bound: Math.min(value, bound), proved: false };
			// The first proof was wrong: from here on both ways are asked anew.
			[found, proofs] = [next, [false, true]];
		}
	}

	/** The least value that the solver finds. */
	#least(from: Found | null): Run {
		const { terms, constant, step } = this.goal;
		return this.solver.run(this.milp, {
			goal: terms,
			begin: from?.values,
			gap: step < 1 ? 1e-6 : 0.99 * step,
			onBounds: (best, bound) =>
				this.report(best === null ? null : best + constant, bound === null ? null : bound + constant)
		});
	}

	/** A solution whose value is less, or whether there is none: that counts where it was found in each of these ways. */
	#better(value: number, ways: readonly boolean[]): Float64Array | 'none' | 'unknown' {
		const { terms, constant, step } = this.goal;
		const better = this.milp.with((programme) => programme.atMost(terms, value - constant - step + EPSILON));
		for (const anew of ways) {
			const { values, status } = this.solver.run(better, { goal: NO_GOAL, anew });
			if (values) return values;
			if (status !== 'infeasible') return 'unknown';
		}
		return 'none';
	}

	/** What no plan can be below: from the relaxation, by one's own arithmetic. */
	#ownBound(): number {
		const { terms, constant, step } = this.goal;
		const { bound } = this.solver.run(this.milp, { goal: terms, relaxed: true });
		return step < 1 ? bound + constant : Math.ceil((bound + constant - EPSILON) / step) * step;
	}
}

function readLayout(task: PlanTask, model: PlanModel, values: Float64Array): Layout {
	const on = (column: number) => values[column] > 0.5;
	const { backs, merges } = readBeside(model, values);
	const layout: Layout = { feeds: new Map(), boxes: new Map(), backs, merges, direct: new Map() };
	for (const out of task.outs) {
		const here = task.devices.filter((device) =>
			model.seats.get(device.id)?.some((seat) => seat.out === out && on(seat.here))
		);
		for (const { device, hop, via } of chain(task, model, out.id, here, values)) {
			if (device.box) {
				layout.boxes.set(device.id, { out: out.id, hop, via });
				continue;
			}
			if (task.policy === 'port-per-instrument' && device.present.boxed?.out === out.id)
				for (const { device: box, hop: at, via: from } of device.present.boxed.boxes)
					layout.boxes.set(box, { out: out.id, hop: at, via: from });
			const seat = model.seats.get(device.id)!.find((entry) => entry.out === out)!;
			const studio = model.studioOptions.get(device.id);
			const channels =
				task.policy === 'port-per-instrument'
					? bestAlone(device, out.reserved)!
					: chosenChannels(studio ?? seat.options, values);
			layout.feeds.set(device.id, { out: out.id, hop, via, channels });
		}
	}
	for (const { id } of task.direct) {
		const options = model.studioOptions.get(id);
		if (options) layout.direct.set(id, chosenChannels(options, values));
	}
	return layout;
}

interface Link {
	device: Candidate;
	hop: number;
	via: string | null;
}

/** Who hangs on which thru socket: hops as the solver gave them, today's cables first. */
function chain(
	task: PlanTask,
	model: PlanModel,
	out: string,
	here: Candidate[],
	values: Float64Array
): Link[] {
	if (task.policy === 'port-per-instrument')
		return here.map((device) => {
			const { boxed } = device.present;
			return boxed?.out === out ? { device, hop: boxed.hop, via: boxed.via } : { device, hop: 1, via: null };
		});
	const hopOf = new Map<Candidate, number>();
	for (const device of here) {
		const followed = model.hops
			.get(device.id)
			?.find((entry) => entry.out === out && values[entry.column] > 0.5);
		if (followed) hopOf.set(device, followed.hop);
	}
	const counted = here.filter((device) => !hopOf.has(device));
	const keepsFirst = (device: Candidate) =>
		device.present.feed && 'out' in device.present.feed && device.present.feed.out === out ? 0 : 1;
	for (const thrus of new Set(counted.map((device) => device.thrus.length))) {
		const alike = counted
			.filter((device) => device.thrus.length === thrus)
			.sort((a, b) => keepsFirst(a) - keepsFirst(b));
		model.counts.get(`${out} ${thrus}`)!.forEach((column, i) => {
			for (let n = Math.round(values[column]); n > 0; n--) hopOf.set(alike.shift()!, i + 1);
		});
	}
	const links: Link[] = [];
	let sockets: string[] = [];
	for (let hop = 1; hop <= task.chain; hop++) {
		const level = here.filter((device) => hopOf.get(device) === hop);
		const next: string[] = [];
		const stays = ({ present: { feed } }: Candidate) =>
			feed !== null && 'socket' in feed && sockets.includes(feed.socket) ? feed.socket : null;
		const kept = new Set(level.flatMap((device) => (hop > 1 ? (stays(device) ?? []) : [])));
		const free = sockets.filter((socket) => !kept.has(socket));
		for (const device of level) {
			const via = hop === 1 ? null : (stays(device) ?? free.shift()!);
			links.push({ device, hop, via });
			next.push(...device.thrus);
		}
		sockets = next;
	}
	return links;
}
