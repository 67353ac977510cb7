import { NO_GOAL, type Terms } from '../milp';
import type { Run, Solver } from '../solver';
import type { Columns, Held, Relaxed } from './columns';
import type { SetColumn } from './set-columns';
import { columnKey, type SetProgramme } from './set-programme';

/** Columns that are tried first, the cheapest by reduced cost; most often they are enough. */
const FEW = [800, 1500, 3000, 6000];
/** Seconds for these, each, and at most how much of what is left. */
const MOMENT = 1.5;
const HALF = 0.5;
/** Steps of a look for some of the sets that may take part. */
const SOME = 2_000;
const GOLDEN = (Math.sqrt(5) - 1) / 2;
const EPSILON = 1e-6;

/** Says what a programme is to reach. @returns what it is to make least; `null`: anything that reaches it will do */
export type Aim = (programme: SetProgramme) => Terms | null;

/** A solution, and the programme that it is one of. */
interface FoundPlan {
	programme: SetProgramme;
	values: Float64Array;
}

/** Looks for a plan near the bound of a relaxation, with all earlier goals held. */
export class Seeker {
	constructor(
		readonly columns: Columns,
		readonly solver: Solver,
		readonly relaxed: Relaxed,
		readonly held: readonly Held[],
		readonly aim: Aim
	) {}

	/**
	 * Looks among the sets that are listed, then among more of them, then among all within `reach` of the bound. That there
	 * is no plan counts only where all were looked at, in two ways.
	 */
	seek(reach: number, load: number): { status: Run['status']; found: FoundPlan | null } {
		const { columns, relaxed } = this;
		const listed = columns.list(load).filter((column) => columns.reduced(relaxed, column) <= reach + EPSILON);
		let found = this.#few(listed);
		if (found) return { status: 'optimal', found };
		let within = columns.within(relaxed, reach, { load, steps: SOME });
		if (!within.all) {
			const keys = new Set(within.columns.map(columnKey));
			found = this.#few([...within.columns, ...listed.filter((column) => !keys.has(columnKey(column)))]);
			if (found) return { status: 'optimal', found };
			within = columns.within(relaxed, reach, { load });
		}
		if (!within.all || within.columns.length > FEW[0]) found = this.#few(within.columns);
		if (found) return { status: 'optimal', found };
		return within.all ? this.#all(within.columns) : { status: 'stopped', found: null };
	}

	#all(columns: readonly SetColumn[]): { status: Run['status']; found: FoundPlan | null } {
		const programme = this.columns.programme(this.held, columns);
		const goal = this.aim(programme) ?? NO_GOAL;
		for (const anew of [false, true]) {
			const { values, status } = this.solver.run(programme.milp, { goal, anew });
			if (values) return { status: 'optimal', found: { programme, values } };
			if (status !== 'infeasible') return { status: 'stopped', found: null };
		}
		return { status: 'infeasible', found: null };
	}

	/** Looks for a plan among those of some sets that the relaxation makes use of or prices lowest. */
	#few(listed: readonly SetColumn[]): FoundPlan | null {
		const { programme: before, run } = this.relaxed;
		const used = new Set(
			before.columns.filter((_, i) => run.values![before.columnOf(i)] > EPSILON).map(columnKey)
		);
		const cost = listed.map((column) =>
			used.has(columnKey(column)) ? -1 : Math.max(0, this.columns.reduced(this.relaxed, column))
		);
		for (const [turn, size] of FEW.entries()) {
			if (this.solver.over) return null;
			// Columns of one cost in a mixed order, another one each time, so that a few of them still cover everything.
			const cheapest = listed
				.map((column, i) => ({
					column,
					at: Math.round(cost[i] * 1e3) + ((i * GOLDEN * (1 + 0.37 * turn)) % 1)
				}))
				.sort((a, b) => a.at - b.at)
				.slice(0, size)
				.map(({ column }) => column);
			const programme = this.columns.programme(this.held, cheapest);
			const goal = this.aim(programme) ?? NO_GOAL;
			const seconds = Math.min(MOMENT, HALF * this.solver.leftSeconds);
			const { values } = this.solver.run(programme.milp, { goal, seconds });
			if (values) return { programme, values };
			if (size >= listed.length) return null;
		}
		return null;
	}
}
