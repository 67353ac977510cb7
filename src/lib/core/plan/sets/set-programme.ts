import { Milp, terms, type Terms } from '../milp';
import { bringBack, each, type Entry } from '../model';
import type { PlanTask } from '../task';
import type { Assignment } from './improve';
import type { Pricer } from './price';
import type { OutClass, SetColumn } from './set-columns';

const keyOf = (devices: readonly number[], out: number, kind: number) =>
	`${devices.join(',')}|${out >= 0 ? out : `k${kind}`}`;
export const columnKey = ({ devices, out, kind }: SetColumn): string => keyOf(devices, out, kind);

/**
 * The programme over sets: choose sets so that each device is in one at most, and no class of outs is asked for more
 * outs than it has. Its relaxation is tight, which is what makes proofs quick (set partitioning).
 */
export class SetProgramme {
	readonly milp = new Milp();
	readonly placed = new Map<string, number>();
	readonly backs = new Map<string, Map<string, number>>();
	readonly merged = new Map<string, Map<string, number>>();
	readonly mergeBacks = new Map<string, Map<string, number>>();
	readonly goals: { unplaced: Terms; crowded: Terms; moves: Terms; away: Terms; channels: Terms };
	readonly #byKey: Map<string, number>;
	readonly #first: number;

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
		columns.forEach(() => milp.choice());
		this.#byKey = new Map(columns.map((column, i) => [columnKey(column), this.#first + i]));
		const covers: Entry[][] = pricer.devices.map(() => []);
		const uses: Entry[][] = classes.map(() => []);
		columns.forEach(({ devices, kind }, i) => {
			const at = this.#first + i;
			for (const device of devices) covers[device].push([at, 1]);
			uses[kind].push([at, 1]);
		});
		pricer.devices.forEach(({ id }, i) => milp.equal([...covers[i], [placed.get(id)!, -1]], 0));
		classes.forEach(({ outs }, kind) => milp.atMost(uses[kind], outs.length));
		const moves: Entry[] = [];
		const away: Entry[] = [];
		bringBack({ task, real, moves, away, model: this });
		const of = (measure: 'crowded' | 'moves' | 'away' | 'channels'): Entry[] =>
			columns
				.map(({ price }, i): Entry => [this.#first + i, price[measure]])
				.filter(([, value]) => value !== 0);
		this.goals = {
			unplaced: terms(each(placed.values(), -1)),
			crowded: terms(of('crowded')),
			moves: terms([...of('moves'), ...moves]),
			away: terms([...of('away'), ...away]),
			channels: terms(of('channels'))
		};
	}

	/** Columns of sets are the ones from `first` on. */
	isSet(column: number): boolean {
		return column >= this.#first && column < this.#first + this.columns.length;
	}

	setOf(column: number): SetColumn {
		return this.columns[column - this.#first];
	}

	columnOf(i: number): number {
		return this.#first + i;
	}

	/** Columns of an assignment and its returns; `null` when one of its sets is no column (any more). */
	valuesOf(assignment: Assignment, returns: Returns): Float64Array | null {
		const values = new Float64Array(this.milp.columns);
		const kindOf = new Map(this.classes.flatMap(({ outs }, kind) => outs.map((out) => [out, kind] as const)));
		for (const [out, set] of settle(this.pricer, this.classes, assignment).entries()) {
			if (set.length === 0) continue;
			const devices = [...set].sort((a, b) => a - b);
			const column =
				this.#byKey.get(keyOf(devices, out, 0)) ?? this.#byKey.get(keyOf(devices, -1, kindOf.get(out)!));
			if (column === undefined) return null;
			values[column] = 1;
			for (const i of set) values[this.placed.get(this.pricer.devices[i].id)!] = 1;
		}
		for (const { id, into } of this.task.devices) {
			const placed = this.placed.get(id);
			if (placed !== undefined && into === null && returns.backs.has(id)) values[placed] = 1;
			if (placed === undefined || values[placed] < 0.5) continue;
			const back = returns.backs.get(id);
			if (!back) continue;
			values[(back.merge ? this.merged.get(id)!.get(back.merge) : this.backs.get(id)!.get(back.in))!] = 1;
		}
		for (const [box, into] of returns.merges) values[this.mergeBacks.get(box)!.get(into)!] = 1;
		return values;
	}

	/** The assignment and returns that a solution stands for. */
	read(values: Float64Array): { assignment: Assignment; returns: Returns } {
		const assignment: Assignment = this.task.outs.map(() => []);
		const chosen = this.columns.filter((_, i) => values[this.#first + i] > 0.5);
		for (const { devices, out } of chosen) if (out >= 0) assignment[out] = [...devices];
		for (const { devices, out, kind } of chosen) {
			if (out >= 0) continue;
			const free = this.classes[kind].outs.find((candidate) => assignment[candidate].length === 0)!;
			assignment[free] = [...devices];
		}
		return { assignment, returns: readReturns(this, values) };
	}
}

export interface Returns {
	backs: Map<string, { in: string; merge: string | null }>;
	merges: Map<string, string>;
}

/** What comes back where, out of the columns of a solution. */
export function readReturns(
	model: Pick<SetProgramme, 'backs' | 'merged' | 'mergeBacks'>,
	values: Float64Array
): Returns {
	const on = (columns: Map<string, number>) => [...columns].find(([, column]) => values[column] > 0.5)?.[0];
	const merges = new Map<string, string>(
		[...model.mergeBacks].flatMap(([box, columns]) => (on(columns) ? [[box, on(columns)!] as const] : []))
	);
	const backs = new Map<string, { in: string; merge: string | null }>(
		[...model.backs].flatMap(([id, columns]): [string, { in: string; merge: string | null }][] => {
			const direct = on(columns);
			const box = on(model.merged.get(id)!);
			if (direct) return [[id, { in: direct, merge: null }]];
			return box ? [[id, { in: merges.get(box)!, merge: box }]] : [];
		})
	);
	return { backs, merges };
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
