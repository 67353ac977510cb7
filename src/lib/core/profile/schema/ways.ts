import { z } from 'zod';
import { count, id, milliseconds, sentence } from './common';

export const captureWay = z.strictObject({
	area: id,
	start: z.discriminatedUnion('by', [
		z.strictObject({ by: z.literal('request'), send: id }),
		z.strictObject({
			by: z.literal('panel'),
			/** What the musician does on the device, once the app listens. */
			instruction: sentence,
			waitMs: milliseconds.default(120_000)
		})
	]),
	expect: id,
	/** Silence after which a request counts as unanswered. */
	timeoutMs: milliseconds.default(1500),
	/** Silence after which a panel-started dump counts as ended. */
	quietMs: milliseconds.default(1000),
	retries: z.number().int().min(0).max(10).default(2),
	/** Rest between one message and the next request. */
	gapMs: milliseconds.default(0),
	/** What the device wants to hear after each message. */
	confirm: z.strictObject({ good: id, bad: id }).optional()
});

export const restoreWay = z.strictObject({
	area: id,
	send: id,
	/** Rest after each message, while the device writes its memory. */
	gapMs: milliseconds.default(0),
	/** Long messages go out in pieces with a rest between them. */
	chunk: z.strictObject({ bytes: count, gapMs: milliseconds }).optional(),
	timeoutMs: milliseconds.default(2000),
	retries: z.number().int().min(0).max(10).default(2),
	/** What the device answers to a write, if it answers. */
	replies: z
		.strictObject({ accepted: id, rejected: id, busy: id.optional(), locked: id.optional() })
		.optional()
});

export const check = z.strictObject({
	id,
	/** What the device's panel must show, or what must be done on it. */
	says: sentence,
	/** Forgotten at power-off, so it is asked every time. */
	forgets: z.boolean().default(false),
	/** What the panel is set back to when the transfer is over. */
	after: sentence.optional()
});

export type CaptureWay = z.infer<typeof captureWay>;
export type RestoreWay = z.infer<typeof restoreWay>;
export type PreflightCheck = z.infer<typeof check>;
