import type { Milp, Terms } from '../milp';
import type { Goal } from '../policy';
import type { Candidate, PlanTask, Socket } from '../task';

export type Entry = readonly [number, number];

/** `factor` times each column. */
export const each = (columns: Iterable<number>, factor = 1): Entry[] =>
	[...columns].map((column): Entry => [column, factor]);

/** One way to give a device channels: a whole block, or one of its loose channels. */
export interface Option {
	covers: number[];
	column: number;
}

/** The columns of a device on one out. */
export interface Seat {
	out: Socket;
	here: number;
	options: Option[];
}

/** The programme, with the columns that a plan is read from. */
export interface PlanModel {
	milp: Milp;
	placed: Map<string, number>;
	seats: Map<string, Seat[]>;
	/** `device → in → column` */
	backs: Map<string, Map<string, number>>;
	/** `device → merge box → column` */
	merged: Map<string, Map<string, number>>;
	/** `merge box → in → column` */
	mergeBacks: Map<string, Map<string, number>>;
	/** Channel options that hold for the whole studio. */
	studioOptions: Map<string, Option[]>;
	/** Columns by out and hop, for devices whose position in a chain matters. */
	hops: Map<string, { out: string; hop: number; column: number }[]>;
	/** `out thrus → columns by hop`: how many such devices sit there, for those whose position does not matter. */
	counts: Map<string, number[]>;
	/** `device → column`: it gets another device ID. */
	renamed: Map<string, number>;
	/** Column of the load on the busiest out, and the bytes/s that one of its steps stands for. */
	busiest: number;
	step: number;
	/** Whether all loads are whole steps. */
	whole: boolean;
	goals: { goal: Exclude<Goal, 'broken'>; terms: Terms; constant: number }[];
}

/** A model while it is put together, with the costs that its parts add to the goals. */
export interface Draft {
	task: PlanTask;
	model: PlanModel;
	/** Several devices may share an out. */
	shared: boolean;
	/** Devices to place, without the thru boxes. */
	real: Candidate[];
	/** Everything that can be fed: devices with an in, and thru boxes. */
	fed: Candidate[];
	crowded: Entry[];
	moves: Entry[];
	/** Moves that no plan can do without. */
	movesAtLeast: number;
	away: Entry[];
	channels: Entry[];
}

/** A column that is 1 only where all of `columns` are. */
export function allOf({ model }: { model: { milp: Milp } }, columns: readonly number[]): number {
	const column = model.milp.share();
	for (const condition of columns) model.milp.needs(column, condition);
	return column;
}

export const onOut = ({ fed, model }: Draft, out: Socket): (Seat & { device: Candidate })[] =>
	fed.flatMap((device) =>
		(model.seats.get(device.id) ?? []).filter((seat) => seat.out === out).map((seat) => ({ device, ...seat }))
	);

export const sameChannels = (a: readonly number[], b: readonly number[]): boolean =>
	a.length === b.length && a.every((channel, i) => channel === b[i]);

export const sumOf = (channels: readonly number[]): number =>
	channels.reduce((sum, channel) => sum + channel, 0);
