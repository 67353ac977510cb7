import type { Goal } from './policy';

/** Where a device is fed from. */
export interface FeedPlace {
	out: string;
	/** 1 right at the out. */
	hop: number;
	/** Thru socket that its cable comes from; `null` right at the out. */
	via: string | null;
	channels: number[];
}

/** What a solver found: who is fed from where, what comes back where, who gets another device ID. */
export interface Layout {
	feeds: Map<string, FeedPlace>;
	/** Thru boxes that take part. */
	boxes: Map<string, Omit<FeedPlace, 'channels'>>;
	/** Interface in, and the merge box on the way, if any. */
	backs: Map<string, { in: string; merge: string | null }>;
	/** Interface in that a merge box goes to. */
	merges: Map<string, string>;
	/** Channels of devices on their own USB cable, where the policy gives them any. */
	direct: Map<string, number[]>;
}

/** Best value found of a goal, and the bound below which none can be. */
export interface GoalResult {
	goal: Exclude<Goal, 'broken'>;
	value: number;
	bound: number;
	proved: boolean;
}

export interface Solved {
	layout: Layout;
	goals: GoalResult[];
	cancelled: boolean;
}

export interface SolveProgress {
	goal: GoalResult['goal'];
	/** Goals that are proved, and of how many. */
	proved: number;
	of: number;
	best: number | null;
	bound: number | null;
}

export interface SolveOptions {
	/** Time for all goals together. */
	seconds: number;
	/** Now, in milliseconds. */
	now(): number;
	onProgress?(progress: SolveProgress): void;
	/** Told of every better layout, and of every goal that is decided, with those before it. */
	onFound?(layout: Layout, goals: readonly GoalResult[]): void;
	/** Looked at now and then; the best plan so far is kept. */
	cancelled?(): boolean;
}
