import { Milp, terms } from '../milp';
import {
	bringBack,
	chosenChannels,
	each,
	sameChannels,
	studioChannels,
	sumOf,
	type Entry,
	type Option,
	type PlanModel
} from '../model';
import type { Solver } from '../solver';
import type { PlanTask } from '../task';
import type { Pricer } from './price';
import type { PlainGoal } from './set-programme';

/** What a plan has beside its sets: what comes back where, and channels where they are the whole studio's. */
export interface Beside {
	backs: Map<string, { in: string; merge: string | null }>;
	merges: Map<string, string>;
	channels: Map<string, number[]>;
}

export function readBeside(
	model: Pick<PlanModel, 'backs' | 'merged' | 'mergeBacks' | 'studioOptions'>,
	values: Float64Array
): Beside {
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
	const channels = new Map(
		[...model.studioOptions].map(([id, own]): [string, number[]] => [id, chosenChannels(own, values)])
	);
	return { backs, merges, channels };
}

export const noneBeside = (): Beside => ({ backs: new Map(), merges: new Map(), channels: new Map() });

/**
 * As many devices as can be with a return, and with channels where they are the whole studio's, whatever out they hang on.
 * @returns `null` where there was no time for it and channels are needed
 */
export function firstBeside(task: PlanTask, pricer: Pricer, solver: Solver): Beside | null {
	let beside = pricer.studioWide ? null : noneBeside();
	const milp = new Milp();
	const model = {
		milp,
		placed: new Map<string, number>(),
		backs: new Map(),
		merged: new Map(),
		mergeBacks: new Map(),
		studioOptions: new Map<string, Option[]>()
	};
	const real = task.devices.filter(({ box, noOut }) => !box && !noOut);
	for (const { id } of real) model.placed.set(id, milp.choice());
	const [moves, away, channels]: Entry[][] = [[], [], []];
	bringBack({ task, real, moves, away, model });
	if (pricer.studioWide) studioChannels({ task, real, moves, channels, model });
	for (const goal of [terms(each(model.placed.values(), -1)), ...[moves, away, channels].map(terms)]) {
		const { values } = solver.run(milp, { goal });
		if (!values) break;
		beside = readBeside(model, values);
		milp.atMost(
			goal,
			[...goal].reduce((sum, [column, factor]) => sum + factor * values[column], EPSILON)
		);
	}
	return beside;
}

/** What channels of the whole studio cost of a goal. */
export function channelCost(
	{ studioWide, devices, task }: Pricer,
	goal: PlainGoal,
	{ channels }: Beside,
	placed: ReadonlySet<string>
): number {
	if (!studioWide || (goal !== 'moves' && goal !== 'channels')) return 0;
	let sum = 0;
	for (const { id, present } of devices) {
		if (!placed.has(id)) continue;
		const given = channels.get(id)!;
		if (goal === 'channels') sum += sumOf(given);
		else if (!sameChannels(given, present.channels)) sum++;
	}
	for (const { id, present } of task.direct) {
		const given = channels.get(id)!;
		if (goal === 'channels') sum += sumOf(given);
		else if (sameChannels(given, present)) sum--;
	}
	return sum;
}

const EPSILON = 1e-6;
