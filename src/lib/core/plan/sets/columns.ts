import { terms } from '../milp';
import type { Run, Solver } from '../solver';
import type { PlanTask } from '../task';
import { cheapSets } from './cheap-sets';
import { MOST_PARTS } from './meter';
import { reducedCost, type Rates } from './rates';
import type { Pricer } from './price';
import { columnKey, SetProgramme, type PlainGoal } from './set-programme';
import { freshOut, outClasses, setColumns, type OutClass, type SetColumn } from './set-columns';
import { NOISE, NOTHING, type Limit, type Wanted } from './wanted';

/** A goal that is held at a value, without what no set has to do with. */
export interface Held {
	goal: PlainGoal;
	value: number;
}

/** The relaxation over all sets there are, whether they are listed or not. */
export interface Relaxed {
	programme: SetProgramme;
	run: Run;
	rates: Rates;
	/** No plan is below it, by one's own arithmetic. */
	bound: number;
}

/** Beyond a bound by less than this is as good as at it. */
const EPSILON = 1e-6;
/** A set that is cheaper than nothing by less than this is not looked for. */
const HARDLY = 1e-7;
/** Sets of each class and home that come in at a time. */
const EACH = 4;
/** Looks for sets, the shortest first: so many steps, then whatever it takes until there are some. */
const LOOKS: readonly Pick<Wanted, 'steps' | 'thorough' | 'patience'>[] = [
	{ steps: 300 },
	{ steps: 5_000 },
	{ thorough: true, patience: 5_000 }
];
/** More sets than this are too many to decide among. */
const MOST_SETS = 60_000;

/** The sets that are in play: listed as they turn out to be of use, and left out where no plan can use them any more. */
export class Columns {
	readonly #pool = new Map<string, SetColumn>();
	readonly #limits: Limit[] = [];
	classes: readonly OutClass[];
	/** No set with more load takes part. */
	load = Infinity;

	constructor(
		readonly task: PlanTask,
		readonly pricer: Pricer,
		readonly solver: Solver
	) {
		this.classes = outClasses(task, false);
		this.addSets(pricer.nodes.map((_, i) => [i]));
	}

	/** Whether a set may take part, by all that was proved before. */
	readonly #may = (column: SetColumn): boolean =>
		this.#limits.every(
			({ rates, reach }) => reducedCost(rates, this.#outOf(column), column.devices, column.price) <= reach
		);

	/** Whether it may take part, and is not listed: what a listed one can bring is in the bound already. */
	readonly #isNew = (column: SetColumn): boolean => this.#may(column) && !this.#pool.has(columnKey(column));

	/** An out that a column stands for. */
	#outOf({ devices, out, kind }: SetColumn): number {
		if (out >= 0) return out;
		return freshOut(this.pricer, this.classes[kind], devices) ?? this.classes[kind].outs[0];
	}

	add(columns: readonly SetColumn[]): void {
		for (const column of columns)
			if (column.price.load <= this.load + EPSILON && this.#may(column))
				this.#pool.set(columnKey(column), column);
	}

	addSets(sets: readonly number[][]): void {
		this.add(
			setColumns(
				this.pricer,
				sets.filter((set) => set.length > 0),
				this.classes
			)
		);
	}

	list(load = this.load): SetColumn[] {
		return [...this.#pool.values()].filter(({ price }) => price.load <= load + EPSILON);
	}

	programme(held: readonly Held[], columns: readonly SetColumn[] = this.list(), loose = false): SetProgramme {
		const programme = new SetProgramme(this.task, this.pricer, this.classes, columns);
		for (const { goal, value } of held) programme.hold(goal, value + (loose ? 0 : EPSILON), loose);
		return programme;
	}

	/**
	 * The least that a goal can be where parts of sets are allowed, over all sets: those that would lower it are brought in
	 * until there are none.
	 * @param goal `null`: by how much the goals that are held have to be exceeded
	 * @param enough ends as soon as the bound is above this
	 * @param solver with the time that there is for it
	 * @returns `null` where time ran out before there was any bound
	 */
	relax(
		held: readonly Held[],
		goal: PlainGoal | null,
		enough: number,
		{ load = this.load, solver = this.solver } = {}
	): Relaxed | null {
		let best: Relaxed | null = null;
		while (!solver.over) {
			const programme = this.programme(held, this.list(load), goal === null);
			const run = solver.run(programme.milp, {
				goal: goal === null ? terms(programme.beyond) : programme.goals[goal],
				relaxed: true
			});
			if (!run.multipliers) break;
			const rates = programme.rates(run.multipliers, goal);
			// What listed sets can do need not be looked for.
			if (goal === null && run.bound <= EPSILON) return { programme, run, rates, bound: 0 };
			let come: SetColumn[] = [];
			for (const look of LOOKS) {
				const { columns, least, all } = cheapSets(this.pricer, this.classes, rates, {
					below: -HARDLY,
					spare: true,
					listed: look.thorough ? this.#leastListed(rates, load) : undefined,
					limits: this.#limits,
					each: EACH,
					load,
					may: this.#isNew,
					over: () => solver.over,
					...look
				});
				come = columns;
				if (all) {
					// As many sets of a class as it has outs could each be that much cheaper than nothing, and what was left out
					// of them for others by as much again.
					const spared = MOST_PARTS * (NOTHING + this.pricer.nodes.length * NOISE);
					const slack = this.classes.reduce(
						(sum, { outs }, kind) => sum + outs.length * (Math.min(-HARDLY, least[kind]) - spared),
						0
					);
					const bound = run.bound + slack;
					if (!best || bound > best.bound) best = { programme, run, rates, bound };
					if (bound > enough + EPSILON || columns.length === 0) return best;
				}
				if (columns.length > 0 || solver.over) break;
			}
			if (come.length === 0) break;
			for (const column of come) this.#pool.set(columnKey(column), column);
		}
		return best;
	}

	/** By class, the least reduced cost of the sets that are listed, no more than nothing. */
	#leastListed(rates: Rates, load: number): number[] {
		const least = this.classes.map(() => 0);
		for (const column of this.list(load)) {
			const value = reducedCost(rates, this.#outOf(column), column.devices, column.price);
			if (value < least[column.kind]) least[column.kind] = value;
		}
		return least;
	}

	/**
	 * The sets that a plan within `reach` of a bound may use.
	 * @param steps a short look, for some of them
	 * @returns whether these are all: not where there are too many
	 */
	within(
		{ rates }: Relaxed,
		reach: number,
		{ load, steps }: { load: number; steps?: number }
	): { columns: SetColumn[]; all: boolean } {
		return cheapSets(this.pricer, this.classes, rates, {
			below: reach + 1e-5,
			limits: this.#limits,
			each: Infinity,
			load,
			most: MOST_SETS,
			may: this.#may,
			over: () => this.solver.over,
			steps
		});
	}

	reduced({ rates }: Relaxed, column: SetColumn): number {
		return reducedCost(rates, this.#outOf(column), column.devices, column.price);
	}

	/** From here on only what a plan within `reach` of a bound may use. */
	limit({ rates }: Relaxed, reach: number): void {
		this.#limits.push({ rates, reach: reach + 1e-5 });
		this.#purge();
	}

	limitLoad(load: number): void {
		this.load = load;
		this.#purge();
	}

	#purge(): void {
		const all = [...this.#pool.values()];
		this.#pool.clear();
		this.add(all);
	}

	/** From here on places count: classes are split by place. */
	refine(): void {
		const sets = new Map([...this.#pool.values()].map(({ devices }) => [devices.join(), devices]));
		this.classes = outClasses(this.task, true);
		this.#pool.clear();
		this.addSets([...sets.values()]);
	}
}
