import { z } from 'zod';
import { count, id, milliseconds, sentence } from './common';
import { checksum } from './message';

/** A checksum over all that a dump carries, which its last message says as `total`: over the memory, or over the bodies as they travel. */
const total = z.strictObject({ checksum, over: z.enum(['memory', 'wire']).optional() }).optional();

/** One message, or the several in which a slot travels. */
const messages = z.union([id, z.array(id).min(1).max(512)]);

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
	/** What comes of one request: a message, or each of several. */
	expect: messages,
	/** Of addressed memory: what one request asks for, and how many bytes at most. */
	covers: z.enum(['section', 'slot']).optional(),
	most: count.max(65536).optional(),
	/** Silence after which a request counts as unanswered. */
	timeoutMs: milliseconds.default(1500),
	/** Silence after which a panel-started dump counts as ended. */
	quietMs: milliseconds.default(1000),
	retries: z.number().int().min(0).max(10).default(2),
	/** Rest between one message and the next request. */
	gapMs: milliseconds.default(0),
	/** What the device wants to hear after each message, or after all that one request brings. */
	confirm: z.strictObject({ good: id, bad: id, each: z.enum(['message', 'dump']).optional() }).optional(),
	/** What it may say besides: that it needs longer (so long at most), that it gives up, that this was all. */
	says: z
		.strictObject({
			wait: id.optional(),
			waitMs: milliseconds.optional(),
			cancel: id.optional(),
			end: id.optional()
		})
		.optional(),
	total,
	/** What it is told once all has come, where it would go on sending; and when the musician calls it off. */
	stop: id.optional(),
	cancel: id.optional()
});

export const restoreWay = z.strictObject({
	area: id,
	/** What carries a slot: a message, or each of several. */
	send: messages,
	/** Of addressed memory: how many bytes one message takes at most. */
	most: count.max(65536).optional(),
	/** Where one message of a slot changes, all of them go out: what one of them says takes effect with another. */
	together: z.literal(true).optional(),
	/** What goes before the messages of a slot, and behind them: all of them go out, also what is there already. */
	begin: id.optional(),
	end: id.optional(),
	total,
	/** What calls it off half-way. */
	cancel: id.optional(),
	/** Rest after each message, while the device writes its memory. */
	gapMs: milliseconds.default(0),
	/** Long messages go out in pieces with a rest between them. */
	chunk: z.strictObject({ bytes: count, gapMs: milliseconds }).optional(),
	timeoutMs: milliseconds.default(2000),
	retries: z.number().int().min(0).max(10).default(2),
	/** What the device answers to a write, if it answers. */
	replies: z
		.strictObject({
			accepted: id,
			rejected: id,
			busy: id.optional(),
			locked: id.optional(),
			/** It asks for the packet after the one that it took. */
			names: z.literal('next').optional(),
			/** How long it may take after it said that it needs longer. */
			busyMs: milliseconds.optional()
		})
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
