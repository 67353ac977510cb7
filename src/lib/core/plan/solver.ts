import type { CallbackEvent, Highs, HighsCallbackMap, ModelData } from 'highs';
import type { SolveOptions } from './layout';
import type { Milp, Terms } from './milp';
import { safeBound } from './safe-bound';

/** Columns above which any solution is hard to come by. */
const LARGE = 1000;
/** The solver's word for a solution that keeps every row. */
const FEASIBLE = 2;

export interface Run {
	status: 'optimal' | 'infeasible' | 'stopped';
	values: Float64Array | null;
	/** No value below it exists: as the solver says, or, for relaxed runs, by one's own arithmetic. */
	bound: number;
	/** Reduced costs by one's own arithmetic, for relaxed runs that ended. */
	reduced: Float64Array | null;
	/** The multipliers of the rows that they come from. */
	multipliers: Float64Array | null;
}

export interface RunOptions {
	goal: Terms;
	/** A plan to begin with. */
	begin?: Float64Array;
	/** Without the demand for whole numbers: quick, and a bound. */
	relaxed?: boolean;
	/** At most this long, and never longer than there is time. */
	seconds?: number;
	/** The other way to the same answer: nothing is simplified beforehand, and every choice is made in another order. */
	anew?: boolean;
	/** Values closer together than this count as the same. */
	gap?: number;
	onBounds?(best: number | null, bound: number | null): void;
}

const known = (value: number | undefined): number | null =>
	value === undefined || !Number.isFinite(value) || Math.abs(value) > 1e20 ? null : value;

/** HiGHS with a time limit for all runs together, and a way to stop it. */
export class Solver {
	readonly #until: number;
	cancelled = false;
	/** Milliseconds that went into looking a second time. */
	proofMs = 0;

	constructor(
		readonly highs: Highs,
		readonly options: SolveOptions,
		/** Begins with what is otherwise the second way. */
		readonly swapped = false
	) {
		this.#until = options.now() + options.seconds * 1000;
	}

	/** A solver like this one, for a share of the time that is left. */
	part(share: number): Solver {
		const seconds = this.leftSeconds * share;
		return new Solver(this.highs, { ...this.options, seconds }, this.swapped);
	}

	get leftSeconds(): number {
		return Math.max(0, (this.#until - this.options.now()) / 1000);
	}

	/** No more time, or somebody said stop. */
	get over(): boolean {
		if (this.options.cancelled?.()) this.cancelled = true;
		return this.cancelled || this.leftSeconds <= 0;
	}

	run(
		milp: Milp,
		{ goal, begin, relaxed = false, anew = false, gap = 0.99, seconds = Infinity, onBounds }: RunOptions
	): Run {
		const began = this.options.now();
		const { callbackType, modelStatus } = this.highs.constants;
		const data = milp.data(goal);
		return this.highs.withModel(
			(relaxed ? { ...data, integrality: undefined } : data) as ModelData,
			(programme) => {
				programme.options.set({
					output_flag: false,
					random_seed: anew !== this.swapped ? 2026 : 1,
					presolve: anew !== this.swapped ? 'off' : 'choose',
					mip_rel_gap: 0,
					mip_heuristic_effort: 0.05,
					// It looks for any solution at all, and takes several times as long as a small programme does.
					mip_heuristic_run_feasibility_jump: begin === undefined && milp.columns > LARGE,
					mip_abs_gap: gap,
					mip_feasibility_tolerance: 1e-7,
					time_limit: Math.max(0.05, Math.min(seconds, this.leftSeconds))
				});
				if (begin && !relaxed) programme.setSolution({ colValue: begin });
				const callbacks = relaxed
					? {}
					: {
							[callbackType.mipLogging]: ({ data: at }: CallbackEvent) =>
								onBounds?.(known(at.mip_primal_bound), known(at.mip_dual_bound)),
							[callbackType.mipInterrupt]: (event: CallbackEvent & { interrupt(): void }) => {
								if (this.over) event.interrupt();
							}
						};
				programme.run(callbacks as unknown as HighsCallbackMap);
				if (anew) this.proofMs += this.options.now() - began;
				const status = programme.getModelStatus();
				const ended = status === modelStatus.optimal;
				const found = Number(programme.info.get('primal_solution_status')) === FEASIBLE;
				const solution = found ? programme.getSolution() : null;
				const outcome: Run['status'] = ended
					? 'optimal'
					: status === modelStatus.infeasible
						? 'infeasible'
						: 'stopped';
				const own = relaxed && ended && solution ? safeBound(data, solution.rowDual) : null;
				return {
					status: outcome,
					values: solution ? Float64Array.from(solution.colValue) : null,
					bound: relaxed ? (own?.bound ?? -Infinity) : Number(programme.info.get('mip_dual_bound')),
					reduced: own?.reduced ?? null,
					multipliers: own && solution ? Float64Array.from(solution.rowDual) : null
				};
			}
		);
	}
}
