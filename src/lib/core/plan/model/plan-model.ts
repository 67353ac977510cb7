import { Milp, terms } from '../milp';
import type { PlanTask } from '../task';
import { giveChannels } from './channels';
import { each, type Draft, type PlanModel } from './draft';
import { chainDevices, countCrowded, keepOmniAlone, measureLoad, seatDevices, tellApart } from './feeds';
import { bringBack } from './returns';

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** The largest step that all loads are whole multiples of, or 0 when they are no whole numbers. */
export function commonStep(loads: readonly number[]): number {
	const some = loads.filter((load) => load > 0);
	return some.every(Number.isInteger) ? some.reduce(gcd, 0) : 0;
}

/** Moves that no plan can do without: USB cables to plug, and a channel for each device on one that does not keep its own. */
export const movesAtLeast = (task: PlanTask): number =>
	task.plugs.length + (task.policy === 'studio-wide-channels' ? task.direct.length : 0);

/** Builds the programme for a task. Every plan that keeps the hard rules is a solution of it, and the other way round. */
export function planModel(task: PlanTask): PlanModel {
	const milp = new Milp();
	const shared = task.policy !== 'port-per-instrument';
	const real = task.devices.filter(({ box }) => !box);
	const step = commonStep(real.map(({ bytesPerSecond }) => bytesPerSecond));
	const model: PlanModel = {
		milp,
		placed: new Map(),
		seats: new Map(),
		backs: new Map(),
		merged: new Map(),
		mergeBacks: new Map(),
		studioOptions: new Map(),
		hops: new Map(),
		counts: new Map(),
		renamed: new Map(),
		// Whole steps let the solver round its bound up.
		busiest: milp.column(0, step > 0 ? Math.floor(task.capacity / step) : task.capacity, step > 0),
		step: step || 1,
		whole: step > 0,
		goals: []
	};
	const draft: Draft = {
		task,
		model,
		shared,
		real,
		fed: [
			...real.filter(({ into }) => into !== null),
			...(shared ? task.devices.filter(({ box }) => box) : [])
		],
		crowded: [],
		moves: [],
		movesAtLeast: movesAtLeast(task),
		away: [],
		channels: []
	};
	for (const device of real) {
		const placed = milp.choice();
		model.placed.set(device.id, placed);
		if (device.noOut) milp.fix(placed, 0);
	}
	seatDevices(draft);
	giveChannels(draft);
	if (shared) {
		chainDevices(draft);
		keepOmniAlone(draft);
		countCrowded(draft);
		tellApart(draft);
	}
	measureLoad(draft);
	bringBack(draft);
	model.goals = [
		{ goal: 'unplaced', terms: terms(each(model.placed.values(), -1)), constant: real.length },
		{ goal: 'crowded', terms: terms(draft.crowded), constant: 0 },
		{ goal: 'moves', terms: terms(draft.moves), constant: draft.movesAtLeast },
		{ goal: 'busiest', terms: terms([[model.busiest, model.step]]), constant: 0 },
		{ goal: 'away', terms: terms(draft.away), constant: 0 },
		{ goal: 'channels', terms: terms(draft.channels), constant: 0 }
	];
	return model;
}
