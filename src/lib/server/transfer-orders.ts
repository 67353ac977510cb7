import { z } from 'zod';
import { versionKind } from '../core/drawer';
import { scopeSchema } from '../core/transfer';
import { sourceSchema } from './wanted';

/** What the interface asks of the transfers service: one schema each, and the type that it gives. */
export const beginSchema = z.object({
	deviceId: z.string(),
	direction: z.enum(['capture', 'restore']),
	scope: scopeSchema,
	kind: versionKind.default('routine'),
	title: z.string().trim().max(80).default(''),
	sourceVersionId: z.string().nullable().default(null),
	/** For a restore: where the content comes from; the version above when left out. */
	source: sourceSchema.nullable().default(null),
	snapshotId: z.string().nullable().default(null),
	predictedMs: z.number().min(0).nullable().default(null)
});

const reasonSchema = z.object({
	code: z.string().max(40),
	says: z.string().max(600),
	remedy: z.string().max(900)
});
const hexMessage = z
	.string()
	.regex(/^f0([0-7][0-9a-f])*f7$/, 'a whole SysEx message in hexadecimal, from f0 to f7')
	.max(16 * 1024 * 1024);

export const appendSchema = z.object({
	/** Number of the first message in this transfer, from 0. */
	position: z.number().int().min(0),
	messages: z.array(hexMessage).min(1).max(500)
});

export const traceSchema = z.object({
	part: z.number().int().min(0),
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

export const finishSchema = z.object({
	status: z.enum(['complete', 'incomplete', 'refused', 'verified', 'differs', 'sent']),
	reason: reasonSchema.nullable(),
	missing: z.number().int().min(0).default(0),
	firmware: z.string().nullable().default(null),
	/** What was read back after a restore. */
	readBack: z.array(hexMessage).default([]),
	/** Which of the received messages form the version, by place; all of them when left out. */
	use: z.array(z.number().int().min(0)).nullable().default(null),
	/** Everything else that the result page shows. */
	outcome: z.record(z.string(), z.unknown()).default({}),
	/** For a dump that no profile reads: whether it came twice in the same way. */
	proved: z.boolean().default(false)
});

export type BeginOrder = z.infer<typeof beginSchema>;
export type AppendOrder = z.infer<typeof appendSchema>;
export type TraceOrder = z.infer<typeof traceSchema>;
export type SafetyOrder = z.infer<typeof safetySchema>;
export type FinishOrder = z.infer<typeof finishSchema>;
export type StoredTraceLine = z.infer<typeof traceSchema>['lines'][number];
