import { z } from 'zod';
import { LONGEST_MESSAGE } from '../sysex';
import { scopeSchema, type Reason, type Scope } from '../transfer';
import { liveWorldSchema, type LiveWorld } from './knowledge';
import { sourceSchema, type WantedSlot } from './restore-source';
import { versionKind } from './version';

/** A transfer as it is kept. Times are ISO 8601, UTC. */
export interface Transfer {
	id: string;
	deviceId: string;
	direction: 'capture' | 'restore';
	scope: Scope;
	/** `running` until it ends; `unfinished` when its page went away. */
	status: 'running' | 'unfinished' | 'complete' | 'incomplete' | 'refused' | 'verified' | 'differs' | 'sent';
	reason: Reason | null;
	outcome: Record<string, unknown> | null;
	startedAt: string;
	endedAt: string | null;
	kind: string;
	title: string;
	versionId: string | null;
	safetyVersionId: string | null;
	sourceVersionId: string | null;
	/** For a restore: what the device shall hold. */
	wanted: WantedSlot[] | null;
	/** The studio snapshot that it belongs to. */
	snapshotId: string | null;
	/** How long it was expected to take, in ms. */
	predictedMs: number | null;
	/** Where it took place; `unrecorded` for those from before worlds were noted. */
	world: LiveWorld | 'unrecorded';
	/** Damage was seen on its line: nothing counts before it came twice in the same way. */
	distrusted: boolean;
	/** It broke off and went on later, so that how long it took says nothing. */
	resumed: boolean;
	/** The bank that it sends. */
	bankId: string | null;
}

/** What the interface asks of the transfers service: one schema each, and the type that it gives. */
export const beginSchema = z.object({
	deviceId: z.string(),
	direction: z.enum(['capture', 'restore']),
	scope: scopeSchema,
	/** Where it takes place: what is learnt counts for that world alone. */
	world: liveWorldSchema,
	kind: versionKind.default('routine'),
	title: z.string().trim().max(80).default(''),
	sourceVersionId: z.string().nullable().default(null),
	/** For a restore: where the content comes from; the version above when left out. */
	source: sourceSchema.nullable().default(null),
	snapshotId: z.string().nullable().default(null),
	predictedMs: z.number().min(0).nullable().default(null)
});

/** An unfinished capture goes on in the world in which it began. */
export const resumeSchema = z.object({ world: liveWorldSchema });

const reasonSchema = z.object({
	code: z.string().max(40),
	says: z.string().max(600),
	remedy: z.string().max(900)
});
const hexMessage = z
	.string()
	.regex(
		/^(f0([0-7][0-9a-f])*f7|[bc][0-9a-f]([0-7][0-9a-f])+)$/,
		'a whole SysEx message in hexadecimal, from f0 to f7, or a value that a panel told'
	)
	.max(2 * LONGEST_MESSAGE);
/** Damage was seen on the line since the transfer began. */
const distrusted = z.boolean().default(false);

export const appendSchema = z.object({
	/** Number of the first message in this transfer, from 0. */
	position: z.number().int().min(0),
	messages: z.array(hexMessage).min(1).max(500),
	distrusted
});

export const traceSchema = z.object({
	part: z.number().int().min(0),
	distrusted,
	lines: z
		.array(
			z.object({
				atMs: z.number(),
				way: z.enum(['sent', 'received', 'note']),
				hex: z.string(),
				says: z.string().default('')
			})
		)
		.max(2000)
});

export const safetySchema = z.object({
	messages: z.array(hexMessage).min(1),
	firmware: z.string().nullable()
});

const slotRef = z.object({ area: z.string(), index: z.number().int().min(0) });

/** How it went for one slot of a restore. */
const slotResult = slotRef.extend({
	label: z.string(),
	name: z.string().nullable(),
	result: z.enum(['verified', 'already there', 'differs', 'sent', 'not sent', 'unknown']),
	found: z.string().nullable().optional()
});

export const finishSchema = z.object({
	status: z.enum(['complete', 'incomplete', 'refused', 'verified', 'differs', 'sent']),
	reason: reasonSchema.nullable(),
	missing: z.number().int().min(0).default(0),
	firmware: z.string().nullable().default(null),
	/** What was read back after a restore. */
	readBack: z.array(hexMessage).default([]),
	/** The slots that a restore wrote, or may have written; all that it could, when left out. */
	touched: z.array(slotRef).nullable().default(null),
	/** Which of the received messages form the version, by place; all of them when left out. */
	use: z.array(z.number().int().min(0)).nullable().default(null),
	/** Everything else that the result page shows. */
	outcome: z
		.looseObject({
			slots: z.array(slotResult).optional(),
			missing: z.array(slotRef.extend({ label: z.string(), why: z.string() })).optional()
		})
		.default({}),
	/** For a dump that no profile reads: whether it came twice in the same way. */
	proved: z.boolean().default(false),
	/** Over real ports: the sockets that it went by, as the rig and the studio name them. */
	line: z
		.object({
			out: z.string().max(120).nullable(),
			in: z.string().max(120).nullable(),
			outName: z.string().max(200),
			inName: z.string().max(200)
		})
		.nullable()
		.default(null)
});

export type AppendOrder = z.infer<typeof appendSchema>;
export type TraceOrder = z.infer<typeof traceSchema>;
export type SafetyOrder = z.infer<typeof safetySchema>;
export type FinishOrder = z.infer<typeof finishSchema>;
/** A line of a transfer's log: ms since its begin, direction, bytes in hexadecimal, meaning. */
export type TraceLineData = TraceOrder['lines'][number];
