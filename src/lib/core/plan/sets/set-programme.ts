import { Milp, terms, type Terms } from '../milp';
import { bringBack, each, keepReserved, studioChannels, type Entry, type Option } from '../model';
import type { PlanTask } from '../task';
import { channelCost, readBeside, type Beside } from './beside';
import type { Rates } from './rates';
import type { Assignment } from './improve';
import type { Pricer } from './price';
import type { OutClass, SetColumn } from './set-columns';

/** Tells columns of different class splits apart. */
export const columnKey = ({ devices, out, kind }: SetColumn): string =>
	`${devices.join(',')}|${out >= 0 ? out : `k${kind}`}`;

export type PlainGoal = 'unplaced' | 'crowded' | 'moves' | 'away' | 'channels';

/** More than any goal but the load can be off. */
const MOST_BEYOND = 1e5;

/**
 * The programme over sets: choose sets so that each device is in one at most, each box too, and no class of outs is asked
 * for more outs than it has. Its relaxation is tight, which is what makes proofs quick (set partitioning).
 */
export class SetProgramme {
	readonly milp = new Milp();
	readonly placed = new Map<string, number>();
	readonly backs = new Map<string, Map<string, number>>();
	readonly merged = new Map<string, Map<string, number>>();
	readonly mergeBacks = new Map<string, Map<string, number>>();
	readonly studioOptions = new Map<string, Option[]>();
	readonly goals: Record<PlainGoal, Terms>;
	/** By how much each goal goes beyond what it is held at, where that is allowed. */
	readonly beyond: Entry[] = [];
	readonly #first: number;
	/** Rows of the nodes, of the classes, and of the goals that are held. */
	readonly #nodeRows: number[];
	readonly #classRows: number[];
	readonly #held = new Map<PlainGoal, number>();
	/** By class and node: rows that keep what has a reserved channel off its outs. */
	readonly #reservedRows: number[][][];

	constructor(
		readonly task: PlanTask,
		readonly pricer: Pricer,
		readonly classes: readonly OutClass[],
		readonly columns: readonly SetColumn[]
	) {
		const { milp, placed } = this;
		const real = task.devices.filter(({ box }) => !box);
		for (const device of real) {
			const column = milp.column(0, device.noOut ? 0 : 1, false);
			placed.set(device.id, column);
		}
		this.#first = milp.columns;
		// That none is chosen twice follows from the rows: a limit of one would take part in what things are worth.
		columns.forEach(() => milp.column(0, 2, true));
		const covers: Entry[][] = pricer.nodes.map(() => []);
		const uses: Entry[][] = classes.map(() => []);
		const there = classes.map(() => pricer.nodes.map((): number[] => []));
		columns.forEach(({ devices, kind }, i) => {
			const at = this.#first + i;
			for (const device of devices) {
				covers[device].push([at, 1]);
				there[kind][device].push(at);
			}
			uses[kind].push([at, 1]);
		});
		this.#nodeRows = pricer.nodes.map(({ id }, i) =>
			pricer.isBox(i) ? milp.atMost(covers[i], 1) : milp.equal([...covers[i], [placed.get(id)!, -1]], 0)
		);
		this.#classRows = classes.map(({ outs }, kind) => milp.atMost(uses[kind], outs.length));
		const moves: Entry[] = [];
		const away: Entry[] = [];
		bringBack({ task, real, moves, away, model: this });
		const channels: Entry[] = [];
		if (pricer.studioWide) studioChannels({ task, real, moves, channels, model: this });
		this.#reservedRows = classes.map(({ outs }, kind) =>
			pricer.devices.map((device, at) => {
				const { reserved } = task.outs[outs[0]];
				return pricer.studioWide ? keepReserved(this, device, reserved, there[kind][at]) : [];
			})
		);
		const of = (measure: 'crowded' | 'moves' | 'away' | 'channels'): Entry[] =>
			columns
				.map(({ price }, i): Entry => [this.#first + i, price[measure]])
				.filter(([, value]) => value !== 0);
		this.goals = {
			unplaced: terms(each(placed.values(), -1)),
			crowded: terms(of('crowded')),
			moves: terms([...of('moves'), ...moves]),
			away: terms([...of('away'), ...away]),
			channels: terms([...of('channels'), ...channels])
		};
	}

	/** Holds a goal at a value. @param loose it may go beyond; `beyond` counts by how much */
	hold(goal: PlainGoal, limit: number, loose = false): void {
		const more: Entry[] = [];
		if (loose) {
			const column = this.milp.column(0, MOST_BEYOND, false);
			more.push([column, -1]);
			this.beyond.push([column, 1]);
		}
		this.#held.set(goal, this.milp.atMost([...this.goals[goal], ...more], limit));
	}

	/** What sets cost and bring by the multipliers of this programme, with a goal (if any) as what is made least. */
	rates(multipliers: Float64Array, goal: PlainGoal | null): Rates {
		const of = (row: number | undefined) => (row === undefined || row < 0 ? 0 : multipliers[row]);
		// A multiplier of the wrong sign says nothing.
		const rate = (name: PlainGoal) => (goal === name ? 1 : 0) + Math.max(0, -of(this.#held.get(name)));
		const outs = new Float64Array(this.task.outs.length);
		const worth: Float64Array[] = [];
		const nodes = Float64Array.from(this.#nodeRows, (row, i) =>
			this.pricer.isBox(i) ? Math.min(0, of(row)) : of(row)
		);
		this.classes.forEach((entry, kind) => {
			const there = nodes.slice();
			this.#reservedRows[kind].forEach((rows, at) => {
				for (const row of rows) there[at] += Math.min(0, of(row));
			});
			for (const out of entry.outs) {
				outs[out] = Math.min(0, of(this.#classRows[kind]));
				worth[out] = there;
			}
		});
		return {
			crowded: rate('crowded'),
			moves: rate('moves'),
			away: rate('away'),
			channels: rate('channels'),
			worth,
			outs
		};
	}

	columnOf(i: number): number {
		return this.#first + i;
	}

	/** What a plan costs of a goal beside its sets. */
	costBeside(goal: PlainGoal, beside: Beside, placed: ReadonlySet<string>): number {
		return this.#returnCost(goal, beside, placed) + channelCost(this.pricer, goal, beside, placed);
	}

	#returnCost(goal: PlainGoal, returns: Beside, placed: ReadonlySet<string>): number {
		const cost = (column: number | undefined) =>
			column === undefined ? 0 : (this.goals[goal].get(column) ?? 0);
		let sum = 0;
		for (const [id, back] of returns.backs) {
			const unfed = this.task.devices.find((device) => device.id === id)!.into === null;
			if (!unfed && !placed.has(id)) continue;
			sum += cost(back.merge ? this.merged.get(id)!.get(back.merge) : this.backs.get(id)!.get(back.in));
		}
		for (const [box, into] of returns.merges) sum += cost(this.mergeBacks.get(box)!.get(into));
		return sum;
	}

	/** The assignment that a solution stands for, and what is beside it. */
	read(values: Float64Array): { assignment: Assignment; beside: Beside } {
		const assignment: Assignment = this.task.outs.map(() => []);
		const chosen = this.columns.filter((_, i) => values[this.#first + i] > 0.5);
		for (const { devices, out } of chosen) if (out >= 0) assignment[out] = [...devices];
		for (const { devices, out, kind } of chosen) {
			if (out >= 0) continue;
			const free = this.classes[kind].outs.find((candidate) => assignment[candidate].length === 0)!;
			assignment[free] = [...devices];
		}
		return { assignment, beside: readBeside(this, values) };
	}
}

/** Puts each set on the out where a member's cable could stay, where that saves moves; nothing gets worse. */
export function settle(pricer: Pricer, classes: readonly OutClass[], assignment: Assignment): Assignment {
	const next = assignment.map((set) => [...set]);
	for (const { outs } of classes)
		for (let again = true, turns = 0; again && turns < outs.length; turns++) {
			again = false;
			for (const out of outs) {
				const moves = pricer.price(out, next[out])!.moves;
				const home = next[out]
					.map((i) => pricer.homes[i])
					.find(
						(candidate) =>
							candidate !== out &&
							outs.includes(candidate) &&
							(pricer.price(candidate, next[out])?.moves ?? Infinity) < moves &&
							pricer.price(out, next[candidate]) !== null
					);
				if (home === undefined) continue;
				[next[out], next[home]] = [next[home], next[out]];
				again = true;
			}
		}
	return next;
}
