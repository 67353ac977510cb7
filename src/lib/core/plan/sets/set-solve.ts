import { commonStep, movesAtLeast } from '../model';
import type { GoalResult, SolveProgress, Solved } from '../layout';
import type { Run, Solver } from '../solver';
import type { PlanTask } from '../task';
import { firstBeside, noneBeside } from './beside';
import { Columns, type Held, type Relaxed } from './columns';
import { firstAssignment, improve, measure, MEASURES, type Assignment, type Fits } from './improve';
import { Pricer } from './price';
import { Seeker, type Aim } from './seek';
import { settle, type PlainGoal, type SetProgramme } from './set-programme';

/** Changes for each device that are tried on a plan before the solver is asked. */
const TRIES = 300;
/** Values from the bound on that are tried one by one. */
const NEAR = 2;
/** How much of the time that is left goes into what is listed already. */
const SHARE = 0.15;
/** And at most into the relaxation of a goal, so that those after it have theirs. */
const RELAXING = 0.6;
const EPSILON = 1e-6;

/**
 * Solves a task over sets of devices and boxes, goal after goal: the best plan known, a bound from the relaxation over all
 * sets there are, sets that no best plan can use left out, and the rest decided by branching.
 * @returns `null` where the task is not one for sets (every out has one instrument), or there was no time to begin
 */
export function solveBySets(task: PlanTask, solver: Solver): Solved | null {
	if (task.policy === 'port-per-instrument') return null;
	return new SetSolve(task, solver, new Pricer(task)).solve();
}

/**
 * Whether a place is found for all devices of a task, by trying.
 * @returns `null` where the task is not one for sets
 */
export function placesAll(task: PlanTask, solver: Solver): boolean | null {
	if (task.policy === 'port-per-instrument') return null;
	return new SetSolve(task, solver, new Pricer(task)).placesAll();
}

class SetSolve {
	readonly #goals: GoalResult[] = [];
	readonly #real: number;
	readonly #columns: Columns;
	/** The programme without any set: what the rest of a plan costs of a goal. */
	readonly #bare: SetProgramme;
	#assignment: Assignment = [];
	#beside = noneBeside();
	#wanted: number[] = [];
	/** Whether the plan comes from the programme since it was bettered by trying changes. */
	#taken = false;

	constructor(
		readonly task: PlanTask,
		readonly solver: Solver,
		readonly pricer: Pricer
	) {
		this.#real = task.devices.filter(({ box }) => !box).length;
		this.#columns = new Columns(task, pricer, solver);
		this.#bare = this.#columns.programme([], []);
	}

	/** Whether a place was found for all devices, in a short time. */
	placesAll(): boolean {
		return this.#place() && this.#known('unplaced') === 0;
	}

	/** @returns `null` where not even channels could be given */
	solve(): Solved | null {
		if (!this.#place()) return null;
		this.#show();
		// A plan that is good in every way, before anything is proved of it.
		for (const goal of MEASURES.slice(1)) if (!this.solver.over) this.#better(goal, { goal: 0 });
		this.#show();
		this.#goal('unplaced');
		this.#goal('crowded');
		this.#goal('moves');
		this.#busiest();
		this.#columns.refine();
		this.#columns.addSets(this.#assignment);
		this.#goal('away');
		this.#goal('channels');
		return { layout: this.#layout(), goals: this.#goals, cancelled: this.solver.cancelled };
	}

	/** Returns and the studio's channels by themselves, then devices one by one. */
	#place(): boolean {
		const beside = firstBeside(this.task, this.pricer, this.solver);
		if (!beside) return false;
		this.#beside = beside;
		this.#wanted = this.pricer.devices
			.map((_, i) => i)
			.filter(
				(i) =>
					!this.pricer.devices[i].noOut &&
					(this.pricer.devices[i].back === null || this.#beside.backs.has(this.pricer.devices[i].id)) &&
					this.#beside.channels.get(this.pricer.devices[i].id)?.length !== 0
			);
		this.#assign(firstAssignment(this.pricer, this.#wanted, this.#fits));
		this.#better('unplaced', { goal: 0, tries: 5 * TRIES * this.#real });
		return true;
	}

	#show(): void {
		this.solver.options.onFound?.(this.#layout(), this.#goals);
	}

	/** Channels are not changed while sets are bettered: some outs may not do for them. */
	readonly #fits: Fits = (at, out) =>
		!this.#beside.channels
			.get(this.pricer.nodes[at].id)
			?.some((channel) => this.task.outs[out].reserved.includes(channel));

	#better(
		goal: (typeof MEASURES)[number],
		aim: { goal: number; target?: number; notch?: number; tries?: number }
	): void {
		const at = MEASURES.indexOf(goal);
		this.#taken = false;
		this.#assign(
			improve(this.pricer, this.#assignment, this.#wanted, {
				at,
				tries: TRIES * this.#real,
				notch: 1,
				fits: this.#fits,
				...aim
			})
		);
	}

	/** Takes a plan, without the boxes that it can do without: they cost what it does not count. */
	#assign(assignment: Assignment): void {
		this.#assignment = settle(this.pricer, this.#columns.classes, assignment).map((set, out) => [
			...useful(this.pricer, out, set)
		]);
	}

	/** What is reached so far, as rows hold it. */
	#held(): Held[] {
		return this.#goals.flatMap(({ goal, value }) =>
			goal === 'busiest' ? [] : [{ goal, value: value - this.#constant(goal) }]
		);
	}

	#constant(goal: PlainGoal): number {
		return goal === 'unplaced' ? this.#real : goal === 'moves' ? movesAtLeast(this.task) : 0;
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

	#decided(result: GoalResult): void {
		// What was left open before may have become better since, by chance.
		for (const before of this.#goals) {
			before.value = before.goal === 'busiest' ? this.#load() : this.#known(before.goal);
			before.proved ||= before.value <= before.bound + EPSILON;
		}
		this.#goals.push(result);
		this.#report(result.goal, result.value, result.bound);
		this.#show();
	}

	#take(programme: SetProgramme, values: Float64Array): void {
		const { assignment, beside } = programme.read(values);
		this.#assign(assignment);
		this.#beside = beside;
		this.#wanted = assignment
			.flat()
			.filter((at) => !this.pricer.isBox(at))
			.sort((a, b) => a - b);
		this.#columns.addSets(this.#assignment);
		this.#taken = true;
		this.#show();
	}

	/** Value of a goal of the best plan known, counted from its sets and what is beside them. */
	#known(goal: PlainGoal): number {
		const { task, pricer } = this;
		const placed = this.#assignment.flat().filter((at) => !pricer.isBox(at));
		if (goal === 'unplaced') {
			const unfed = task.devices.filter(({ id, into }) => into === null && this.#beside.backs.has(id));
			return this.#real - placed.length - unfed.length;
		}
		return (
			this.#constant(goal) +
			measure(pricer, this.#assignment, 0)[MEASURES.indexOf(goal)] +
			this.#bare.costBeside(goal, this.#beside, new Set(placed.map((i) => pricer.devices[i].id)))
		);
	}

	#goal(goal: PlainGoal): void {
		const constant = this.#constant(goal);
		this.#columns.addSets(this.#assignment);
		let known = this.#known(goal);
		if (goal !== 'unplaced' && known > 0 && this.#taken && !this.solver.over) {
			this.#better(goal, { goal: 0 });
			this.#columns.addSets(this.#assignment);
			known = this.#known(goal);
		}
		// Nothing is better than none.
		if (known === 0) return this.#decided({ goal, value: 0, bound: 0, proved: true });
		const solver = this.solver.part(RELAXING);
		const relaxed = this.#columns.relax(this.#held(), goal, known - constant - 1, { solver });
		if (!relaxed) return this.#decided({ goal, value: known, bound: 0, proved: false });
		const low = relaxed.bound + constant;
		const bound = Math.min(known, Math.max(0, Math.ceil(low - EPSILON)));
		this.#report(goal, known, bound);
		if (known > bound) {
			this.#listed(goal, relaxed);
			known = this.#known(goal);
		}
		// Aim at the bound, then one above: only columns within that reach can take part. Far from it, at anything better.
		let least = bound;
		while (least < known) {
			const aim = least - bound < NEAR ? least : known - 1;
			const status = this.#seek(relaxed, aim - low, ({ milp, goals }) => {
				milp.atMost(goals[goal], aim - constant + EPSILON);
				return aim > least ? goals[goal] : null;
			});
			if (status === 'optimal') known = this.#known(goal);
			if (status === 'infeasible') least = aim + 1;
			this.#report(goal, known, Math.min(known, least));
			if (status === 'stopped' || this.solver.over || (status === 'optimal' && known > aim)) break;
		}
		if (least < known) return this.#decided({ goal, value: known, bound: least, proved: false });
		this.#columns.limit(relaxed, known - low);
		this.#decided({ goal, value: known, bound: known, proved: true });
	}

	/** The best plan of the sets that are listed so far, if it is found in a short time. */
	#listed(goal: PlainGoal, { programme }: Relaxed): void {
		const run = this.solver.run(programme.milp, {
			goal: programme.goals[goal],
			seconds: SHARE * this.solver.leftSeconds
		});
		if (!run.values) return;
		const before = [this.#assignment, this.#beside, this.#wanted] as const;
		const was = this.#known(goal);
		this.#take(programme, run.values);
		if (this.#known(goal) > was) [this.#assignment, this.#beside, this.#wanted] = before;
	}

	/** Looks for a plan within `reach` of a bound; what is found becomes the plan. */
	#seek(relaxed: Relaxed, reach: number, aim: Aim, load = this.#columns.load): Run['status'] {
		const seeker = new Seeker(this.#columns, this.solver, relaxed, this.#held(), aim);
		const { status, found } = seeker.seek(reach, load);
		if (found) this.#take(found.programme, found.values);
		return status;
	}

	#load(): number {
		return measure(this.pricer, this.#assignment, 0)[MEASURES.indexOf('busiest')];
	}

	/** The least load that a plan can keep to. */
	#busiest(): void {
		const { pricer, solver } = this;
		const steps = commonStep(pricer.devices.map(({ bytesPerSecond }) => bytesPerSecond));
		const step = steps || 1e-3;
		const up = (value: number) => Math.ceil(value / step - EPSILON) * step;
		const total = this.#wanted.reduce((sum, i) => sum + pricer.devices[i].bytesPerSecond, 0);
		const even = up(total / this.task.outs.length);
		// Who has a place may be chosen otherwise where not all have one.
		const least = this.#known('unplaced') > 0 ? 0 : even;
		if (this.#load() > even && !solver.over)
			this.#better('busiest', { goal: 0, target: even, notch: steps || 1 });
		this.#columns.addSets(this.#assignment);
		const held = this.#held();
		// What the relaxation cannot do, nobody can.
		const impossible = (limit: number): boolean | null => {
			const relaxed = this.#columns.relax(held, null, EPSILON, { load: limit, solver: part });
			if (!relaxed) return null;
			return relaxed.bound > EPSILON || (relaxed.run.bound <= EPSILON ? false : null);
		};
		const part = solver.part(RELAXING);
		let [low, high] = [Math.round(least / step), Math.round(this.#load() / step)];
		let open = false;
		// The plan is often as good as can be: from there downwards, further each time.
		for (let down = 1; low < high && !open; down *= 2) {
			const middle = Math.max(high - down, Math.floor((low + high) / 2));
			const answer = part.over ? null : impossible(middle * step);
			if (answer === null) open = true;
			else if (answer) low = middle + 1;
			else high = middle;
			this.#report('busiest', this.#load(), low * step);
		}
		// Then from below: the first that is possible is the best.
		let value = this.#load();
		while (!open && low * step < value - EPSILON) {
			this.#better('busiest', { goal: 0, target: low * step, notch: steps || 1 });
			this.#columns.addSets(this.#assignment);
			value = this.#load();
			if (low * step >= value - EPSILON) break;
			const status = this.#within(held, low * step);
			if (status === 'infeasible') low++;
			else if (status === 'stopped') open = true;
			value = this.#load();
			this.#report('busiest', value, low * step);
		}
		this.#columns.limitLoad(value);
		this.#decided({
			goal: 'busiest',
			value,
			bound: open ? Math.min(value, low * step) : value,
			proved: !open
		});
	}

	/** Looks for a plan with no load above a limit, at the goals that are reached. */
	#within(held: readonly Held[], limit: number): Run['status'] {
		// The last goal that is not nought leaves the fewest sets: all others cost more than there is to spend.
		const last = held.findLast(({ value }) => value > EPSILON);
		const others = held.filter((entry) => entry !== last);
		const relaxed = this.#columns.relax(last ? others : held, last?.goal ?? 'channels', Infinity, {
			load: limit,
			solver: this.solver.part(RELAXING)
		});
		if (!relaxed) return 'stopped';
		const reach = last ? last.value - relaxed.bound : Infinity;
		if (reach < -EPSILON) return 'infeasible';
		return this.#seek(relaxed, reach, () => null, limit);
	}

	#layout(): Solved['layout'] {
		const { pricer, task } = this;
		const layout: Solved['layout'] = {
			boxes: new Map(),
			direct: new Map(),
			backs: this.#beside.backs,
			merges: this.#beside.merges,
			feeds: new Map()
		};
		this.#assignment.forEach((set, out) => {
			for (const { at, hop, via, channels } of pricer.hang(out, set)) {
				const place = { out: task.outs[out].id, hop, via };
				if (pricer.isBox(at)) layout.boxes.set(pricer.nodes[at].id, place);
				else {
					const { id } = pricer.nodes[at];
					layout.feeds.set(id, { ...place, channels: this.#beside.channels.get(id) ?? channels });
				}
			}
		});
		for (const { id } of task.direct) {
			const channels = this.#beside.channels.get(id);
			if (channels) layout.direct.set(id, channels);
		}
		return layout;
	}
}

/** A set without the boxes that it can do without at no cost. */
function useful(pricer: Pricer, out: number, set: readonly number[]): readonly number[] {
	let rest = set;
	for (const box of set.filter((at) => pricer.isBox(at))) {
		const without = rest.filter((at) => at !== box);
		const [price, now] = [pricer.price(out, without), pricer.price(out, rest)!];
		if (price && price.moves <= now.moves) rest = without;
	}
	return rest;
}
