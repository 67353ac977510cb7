import { z } from 'zod';
import { changeSchema } from '../rig';
import { GOALS, POLICIES, type Goal, type Policy } from './policy';

const id = z.string().min(1).max(120);
const words = z.string().max(2000);
const channels = z.array(z.number().int().min(1).max(16)).max(16);
const keysOf = <K extends string>(table: Record<K, unknown>) => Object.keys(table) as [K, ...K[]];

/** A place that the plan gives to a device. */
const assignmentSchema = z.object({
	device: id,
	/** Out that feeds it; `null` for what only sends. A USB device's own port. */
	out: id.nullable(),
	/** Interface in that its out comes back to; `null` where no return is asked for. */
	in: id.nullable(),
	channels,
	/** 1 right at the out, one more behind each thru socket; 0 for what is not fed. */
	hop: z.number().int(),
	/** Thru socket that its cable comes from; `null` right at the out. */
	via: id.nullable(),
	/** Merge box between its out and the interface in. */
	merge: id.nullable(),
	/** Device ID that it is to have, where the plan changes it. */
	deviceId: z.number().int().nullable()
});
export type PlanAssignment = z.infer<typeof assignmentSchema>;

/** A thru box or merge box that the plan makes use of. */
const boxSchema = assignmentSchema.pick({ device: true, out: true, in: true, hop: true, via: true });
export type PlanBox = z.infer<typeof boxSchema>;

/** A USB cable that the plan asks for. */
const plugSchema = z.object({ device: id, from: id, to: id });
export type PlanPlug = z.infer<typeof plugSchema>;

const unplacedSchema = z.object({
	device: id,
	/** The constraints that collide. */
	because: z.array(words),
	/** The smallest things that would free it. */
	wouldHelp: z.array(words)
});
export type Unplaced = z.infer<typeof unplacedSchema>;

/** A change of the rig with what it is called in a list of things to do. */
const stepSchema = z.object({ says: words.min(1), change: changeSchema });
export type PlanStep = z.infer<typeof stepSchema>;

/** What the planner found; the shape that the command line prints. */
export const planSchema = z.object({
	/** `optimal`: proved best. `feasible`: keeps all rules, may be bettered by `gap`. `infeasible`: something has no place. */
	status: z.enum(['optimal', 'feasible', 'infeasible']),
	/** Share by which the first goal that is not proved may still be bettered; 0 when proved. */
	gap: z.number(),
	policy: z.enum(keysOf<Policy>(POLICIES)),
	assignments: z.array(assignmentSchema),
	boxes: z.array(boxSchema),
	plugs: z.array(plugSchema),
	unplaced: z.array(unplacedSchema),
	/** What the plan cannot know, and ought to be looked up: it may change what is best. */
	asks: z.array(z.object({ says: words, devices: z.array(id) })),
	/** Cables to plug and panel settings to change. */
	moves: z.number().int(),
	loads: z.array(z.object({ port: id, bytesPerSecond: z.number(), share: z.number() })),
	goals: z.record(z.enum(keysOf<Goal>(GOALS)), z.number()),
	/** Goals that are proved. */
	proved: z.array(z.enum(keysOf<Goal>(GOALS))),
	why: z.record(z.string(), words),
	steps: z.array(stepSchema),
	/** Milliseconds in all, and those of them that went into proving a second way. */
	took: z.object({ ms: z.number(), proofMs: z.number() }),
	cancelled: z.boolean()
});
export type Plan = z.infer<typeof planSchema>;
