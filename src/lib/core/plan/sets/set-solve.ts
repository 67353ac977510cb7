import { Milp, terms } from '../milp';
import { bringBack, each, type Entry } from '../model';
import type { GoalResult, SolveProgress, Solved } from '../layout';
import type { Run, Solver } from '../solver';
import type { PlanTask } from '../task';
import { firstAssignment, improve, measure, MEASURES, type Assignment } from './improve';
import { Pricer } from './price';
import { columnKey, readReturns, SetProgramme, settle, type Returns } from './set-programme';
import { outClasses, possibleSets, setColumns, type OutClass, type SetColumn } from './set-columns';

/** More sets than this, and the compact programme is the better choice. */
const MOST_SETS = 120_000;
/** Changes that are tried on a plan before the solver is asked. */
const TRIES = 20_000;
/** As many where nothing else follows. */
const ROUGH = 120_000;
/** Columns that are tried first, the cheapest by reduced cost; most often they are enough. */
const FEW = [800, 1500, 3000, 6000];
const GOLDEN = (Math.sqrt(5) - 1) / 2;
const EPSILON = 1e-6;
/** More than any goal but the load can be off. */
const MOST_BEYOND = 1e5;

type PlainGoal = 'unplaced' | 'crowded' | 'moves' | 'away' | 'channels';

/**
 * Solves a task over sets of devices, goal after goal: the best plan known, a bound from the relaxation, columns that
 * no best plan can use thrown away, and the rest decided by branching.
 * @returns `null` where the task is not one for sets (thru boxes, wide thru sockets, loose channels, long chains)
 */
export function solveBySets(task: PlanTask, solver: Solver): Solved | null {
	if (task.policy !== 'shared-ports' || task.chain > 4) return null;
	if (task.devices.some(({ box, loose, thrus }) => box || loose.length > 0 || thrus.length > 1)) return null;
	const pricer = new Pricer(task);
	const sets = possibleSets(pricer, task.chain, MOST_SETS);
	return sets && new SetSolve(task, solver, pricer).solve(sets);
}

/** A good plan for a task of lines, found by trying changes, goal after goal. It keeps all rules, and proves nothing. */
export const roughPlan = (task: PlanTask, solver: Solver): Solved['layout'] =>
	new SetSolve(task, solver, new Pricer(task)).rough();

class SetSolve {
	readonly #goals: GoalResult[] = [];
	readonly #real: number;
	#classes: OutClass[];
	#columns: SetColumn[] = [];
	#assignment: Assignment = [];
	#returns: Returns = { backs: new Map(), merges: new Map() };
	#wanted: number[] = [];

	constructor(
		readonly task: PlanTask,
		readonly solver: Solver,
		readonly pricer: Pricer
	) {
		this.#real = task.devices.filter(({ box }) => !box).length;
		this.#classes = outClasses(task, false);
	}

	solve(sets: number[][]): Solved {
		this.#columns = setColumns(this.pricer, sets, this.#classes);
		this.#begin();
		this.#goal('unplaced');
		this.#goal('crowded');
		this.#goal('moves');
		this.#show();
		this.#busiest();
		this.#show();
		this.#refine();
		this.#goal('away');
		this.#goal('channels');
		return { layout: this.#layout(), goals: this.#goals, cancelled: this.solver.cancelled };
	}

	rough(): Solved['layout'] {
		this.#begin();
		const least = Math.min(
			...this.pricer.devices.map(({ bytesPerSecond }) => bytesPerSecond || Infinity),
			1000
		);
		for (const goal of MEASURES.slice(1)) {
			if (this.solver.over) break;
			this.#better(goal, { goal: 0, tries: ROUGH, notch: goal === 'busiest' ? least : 1 });
			this.#show();
		}
		return this.#layout();
	}

	/** Returns by themselves, then devices one by one. */
	#begin(): void {
		const { task } = this;
		const milp = new Milp();
		const model = {
			milp,
			placed: new Map<string, number>(),
			backs: new Map(),
			merged: new Map(),
			mergeBacks: new Map()
		};
		const real = task.devices.filter(({ box, noOut }) => !box && !noOut);
		for (const { id } of real) model.placed.set(id, milp.choice());
		const [moves, away]: Entry[][] = [[], []];
		bringBack({ task, real, moves, away, model });
		for (const goal of [terms(each(model.placed.values(), -1)), terms(moves), terms(away)]) {
			const { values } = this.solver.run(milp, { goal });
			if (!values) break;
			this.#returns = readReturns(model, values);
			milp.atMost(
				goal,
				[...goal].reduce((sum, [column, factor]) => sum + factor * values[column], EPSILON)
			);
		}
		this.#wanted = this.pricer.devices
			.map((_, i) => i)
			.filter(
				(i) =>
					!this.pricer.devices[i].noOut &&
					(this.pricer.devices[i].back === null || this.#returns.backs.has(this.pricer.devices[i].id))
			);
		this.#assignment = firstAssignment(this.pricer, this.#wanted);
		this.#better('unplaced', { goal: 0, tries: 5 * TRIES });
		this.#show();
	}

	#show(): void {
		this.solver.options.onFound?.(this.#layout(), this.#goals);
	}

	#better(
		goal: (typeof MEASURES)[number],
		aim: { goal: number; target?: number; notch?: number; tries?: number }
	): void {
		const at = MEASURES.indexOf(goal);
		this.#assignment = improve(this.pricer, this.#assignment, this.#wanted, {
			at,
			tries: TRIES,
			notch: 1,
			...aim
		});
	}

	/** The programme over the columns that are left, with all earlier goals held. */
	#programme(columns = this.#columns): SetProgramme {
		const programme = new SetProgramme(this.task, this.pricer, this.#classes, columns);
		for (const { goal, value } of this.#goals)
			if (goal !== 'busiest')
				programme.milp.atMost(programme.goals[goal], value - this.#constant(goal) + EPSILON);
		return programme;
	}

	#constant(goal: PlainGoal): number {
		return goal === 'unplaced' ? this.#real : goal === 'moves' ? this.task.plugs.length : 0;
	}

	#report(goal: GoalResult['goal'], best: number | null, bound: number | null): void {
		const progress: SolveProgress = {
			goal,
			proved: this.#goals.filter(({ proved }) => proved).length,
			of: MEASURES.length,
			best,
			bound
		};
		this.solver.options.onProgress?.(progress);
	}

	#take(programme: SetProgramme, values: Float64Array): void {
		const { assignment, returns } = programme.read(values);
		this.#assignment = assignment;
		this.#returns = returns;
		this.#wanted = assignment.flat().sort((a, b) => a - b);
		this.#show();
	}

	/** Value of a goal of the best plan known, counted from its sets and its returns. */
	#known(programme: SetProgramme, goal: PlainGoal): number {
		const { task, pricer } = this;
		const settled = settle(pricer, this.#classes, this.#assignment);
		if (goal === 'unplaced') {
			const unfed = task.devices.filter(({ id, into }) => into === null && this.#returns.backs.has(id));
			return this.#real - settled.flat().length - unfed.length;
		}
		const feeds = measure(pricer, settled, 0)[MEASURES.indexOf(goal)];
		return (
			this.#constant(goal) +
			feeds +
			programme.returnCost(goal, this.#returns, new Set(settled.flat().map((i) => pricer.devices[i].id)))
		);
	}

	#goal(goal: PlainGoal): void {
		const constant = this.#constant(goal);
		const programme = this.#programme();
		let known = this.#known(programme, goal);
		if (known === 0) {
			// Nothing is better than none.
			this.#goals.push({ goal, value: 0, bound: 0, proved: true });
			this.#report(goal, 0, 0);
			return;
		}
		const relaxed = this.solver.over
			? null
			: this.solver.run(programme.milp, { goal: programme.goals[goal], relaxed: true });
		if (!relaxed?.reduced) {
			this.#goals.push({ goal, value: known, bound: 0, proved: false });
			return;
		}
		const low = relaxed.bound + constant;
		const bound = Math.max(0, Math.ceil(low - EPSILON));
		if (goal === 'crowded' && known > bound && !this.solver.over) {
			this.#better(goal, { goal: bound });
			known = this.#known(programme, goal);
		}
		this.#report(goal, known, bound);
		// Aim at the bound, then one above, and so on: only columns within that reach can take part.
		for (let target = bound; target < known; target++) {
			const able = within(programme, relaxed.reduced, target - low);
			const status = this.#seek(able, programme, relaxed, ({ milp, goals }) =>
				milp.atMost(goals[goal], target - constant + EPSILON)
			);
			if (status === 'optimal') known = target;
			if (status === 'stopped') {
				this.#goals.push({ goal, value: known, bound: target, proved: false });
				return;
			}
			this.#report(goal, known, status === 'infeasible' ? target + 1 : target);
		}
		this.#columns = within(programme, relaxed.reduced, known - low);
		this.#goals.push({ goal, value: known, bound: known, proved: true });
	}

	/**
	 * Looks for a plan among `able`: first among the few that the relaxation makes use of or prices lowest, then among
	 * all. What is found becomes the plan.
	 */
	#seek(
		able: SetColumn[],
		priced: SetProgramme,
		relaxed: Run,
		rows: (programme: SetProgramme) => void
	): Run['status'] {
		const { values, reduced } = relaxed;
		const cost = new Map(
			priced.columns.map((column, i) => {
				const at = priced.columnOf(i);
				return [column, values![at] > EPSILON ? -1 : Math.max(0, reduced![at])] as const;
			})
		);
		// Columns of one cost in a mixed order, another one each time, so that a few of them still cover everything.
		const cheapest = (few: number, turn: number) =>
			able
				.map((column, i) => ({
					column,
					at: Math.round(cost.get(column)! * 1e3) + ((i * GOLDEN * (1 + 0.37 * turn)) % 1)
				}))
				.sort((a, b) => a.at - b.at)
				.slice(0, few)
				.map(({ column }) => column);
		for (const [turn, size] of [...FEW.filter((few) => few < able.length * 0.7), able.length].entries()) {
			const all = size === able.length;
			const programme = this.#programme(all ? able : cheapest(size, turn));
			rows(programme);
			// That there is none counts only where it was found in two ways.
			for (const anew of all ? [false, true] : [false]) {
				const run = this.solver.run(programme.milp, {
					goal: terms([]),
					seconds: all ? undefined : 1.5,
					anew
				});
				if (run.values) {
					this.#take(programme, run.values);
					return 'optimal';
				}
				if (this.solver.over || (all && (anew || run.status !== 'infeasible'))) return run.status;
			}
		}
		throw new RangeError('No columns to seek among.');
	}

	/** The least load that a plan can keep to: halving between what the relaxation allows and what is known. */
	#busiest(): void {
		const load = () => measure(this.pricer, this.#assignment, 0)[MEASURES.indexOf('busiest')];
		const loads = [...new Set(this.#columns.map(({ price }) => price.load))].sort((a, b) => a - b);
		const within = (limit: number) => this.#columns.filter(({ price }) => price.load <= limit + EPSILON);
		let high = loads.findIndex((value) => value >= load() - EPSILON);
		let low = 0;
		const relaxed = (limit: number) => {
			const programme = this.#programme(within(limit));
			return {
				programme,
				run: this.solver.run(programme.milp, { goal: programme.goals.channels, relaxed: true })
			};
		};
		// First by the relaxation alone: what it cannot do, nobody can.
		for (let top = high; low < top && !this.solver.over;) {
			const middle = Math.floor((low + top) / 2);
			if (this.#impossible(within(loads[middle]))) low = middle + 1;
			else top = middle;
			this.#report('busiest', load(), loads[low]);
		}
		if (low < high && !this.solver.over) {
			const least = Math.min(...loads.filter((value) => value > 0));
			this.#better('busiest', { goal: 0, target: loads[low], notch: least });
			high = loads.findIndex((value) => value >= load() - EPSILON);
		}
		// Then from below: the first that is possible is the best.
		while (low < high && !this.solver.over) {
			const { programme, run } = relaxed(loads[low]);
			const status = run.values
				? this.#seek([...programme.columns], programme, run, () => undefined)
				: this.#impossible(within(loads[low]))
					? 'infeasible'
					: 'stopped';
			if (status === 'infeasible') low++;
			else if (status === 'optimal') high = low;
			else break;
			this.#report('busiest', load(), loads[Math.min(low, high)]);
		}
		const proved = low >= high;
		const value = load();
		this.#goals.push({ goal: 'busiest', value, bound: proved ? value : (loads[low] ?? 0), proved });
		this.#columns = within(value);
	}

	/**
	 * Whether these columns cannot hold what the earlier goals have reached, by one's own arithmetic: even where parts of
	 * sets are allowed, they go beyond it by more than nothing.
	 */
	#impossible(columns: SetColumn[]): boolean {
		const programme = new SetProgramme(this.task, this.pricer, this.#classes, columns);
		const { milp } = programme;
		const beyond: Entry[] = [];
		for (const { goal, value } of this.#goals) {
			if (goal === 'busiest') continue;
			const more = milp.column(0, MOST_BEYOND, false);
			beyond.push([more, 1]);
			milp.atMost([...programme.goals[goal], [more, -1]], value - this.#constant(goal));
		}
		return this.solver.run(milp, { goal: terms(beyond), relaxed: true }).bound > EPSILON;
	}

	/** From here on places count: classes are split by place, for the sets that are left. */
	#refine(): void {
		const coarse = new Set(this.#columns.map(columnKey));
		const kindOf = new Map(
			this.#classes.flatMap(({ outs }, kind) => outs.map((out) => [out, kind] as const))
		);
		const fine = outClasses(this.task, true);
		const sets = new Map(this.#columns.map(({ devices }) => [devices.join(','), devices]));
		this.#columns = setColumns(this.pricer, [...sets.values()], fine).filter((column) =>
			coarse.has(columnKey({ ...column, kind: kindOf.get(fine[column.kind].outs[0])! }))
		);
		this.#classes = fine;
	}

	#layout(): Solved['layout'] {
		const { pricer, task } = this;
		return {
			boxes: new Map(),
			direct: new Map(),
			backs: this.#returns.backs,
			merges: this.#returns.merges,
			feeds: new Map(
				settle(pricer, this.#classes, this.#assignment).flatMap((set, out) => {
					const { order, given } = pricer.price(out, set)!;
					return order.map((i, at) => {
						const above = order[at - 1];
						const { feed } = pricer.devices[i].present;
						const stays =
							above !== undefined && feed && 'device' in feed && feed.device === pricer.devices[above].id;
						const via = above === undefined ? null : stays ? feed.socket : pricer.devices[above].thrus[0];
						return [
							pricer.devices[i].id,
							{ out: task.outs[out].id, hop: at + 1, via, channels: given[at] }
						] as const;
					});
				})
			)
		};
	}
}

/** Columns whose reduced cost is within `reach` of the relaxation's bound: no plan within it can use another one. */
const within = (programme: SetProgramme, reduced: Float64Array, reach: number): SetColumn[] =>
	programme.columns.filter((_, i) => reduced[programme.columnOf(i)] <= reach + 1e-5);
