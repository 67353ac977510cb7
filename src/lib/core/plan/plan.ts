import type { RigChange } from '../rig';
import type { Goals, Policy } from './policy';

/** A place that the plan gives to a device. */
export interface PlanAssignment {
	device: string;
	/** Out that feeds it; `null` for what only sends. A USB device's own port. */
	out: string | null;
	/** Interface in that its out comes back to; `null` where no return is asked for. */
	in: string | null;
	channels: number[];
	/** 1 right at the out, one more behind each thru socket; 0 for what is not fed. */
	hop: number;
	/** Thru socket that its cable comes from; `null` right at the out. */
	via: string | null;
	/** Merge box between its out and the interface in. */
	merge: string | null;
	/** Device ID that it is to have, where the plan changes it. */
	deviceId: number | null;
}

/** A thru box or merge box that the plan makes use of. */
export interface PlanBox {
	device: string;
	out: string | null;
	in: string | null;
	hop: number;
	via: string | null;
}

/** A USB cable that the plan asks for. */
export interface PlanPlug {
	device: string;
	from: string;
	to: string;
}

export interface Unplaced {
	device: string;
	/** The constraints that collide. */
	because: string[];
	/** The smallest things that would free it. */
	wouldHelp: string[];
}

/** A change of the rig with what it is called in a list of things to do. */
export interface PlanStep {
	says: string;
	change: RigChange;
}

/** What the planner found; the shape that the command line prints. */
export interface Plan {
	/** `optimal`: proved best. `feasible`: keeps all rules, may be bettered by `gap`. `infeasible`: something has no place. */
	status: 'optimal' | 'feasible' | 'infeasible';
	/** Share by which the first goal that is not proved may still be bettered; 0 when proved. */
	gap: number;
	policy: Policy;
	assignments: PlanAssignment[];
	boxes: PlanBox[];
	plugs: PlanPlug[];
	unplaced: Unplaced[];
	/** What the plan cannot know, and ought to be looked up: it may change what is best. */
	asks: { says: string; devices: string[] }[];
	/** Cables to plug and panel settings to change. */
	moves: number;
	loads: { port: string; bytesPerSecond: number; share: number }[];
	goals: Goals;
	/** Goals that are proved. */
	proved: (keyof Goals)[];
	why: Record<string, string>;
	steps: PlanStep[];
	/** Milliseconds in all, and those of them that went into proving a second way. */
	took: { ms: number; proofMs: number };
	cancelled: boolean;
}
