import { z } from 'zod';
import { count } from './common';

/** Who wrote a profile, for whoever gets it as a file. */
export const about = z.strictObject({
	title: z.string().min(1).max(80).optional(),
	author: z.string().min(1).max(80).optional(),
	note: z.string().max(2000).optional()
});

/** What was shown of a profile in the studio of whoever wrote it: how much of how many dumps it reads and builds again. */
export const report = z.strictObject({
	/** The day, as 2026-11-29. */
	at: z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'write a day as 2026-11-29'),
	/** Firmware of the instruments whose dumps these were, as far as they said. */
	firmware: z.array(z.string().min(1).max(30)).max(20),
	/** Whether all of them came from simulated instruments. */
	bench: z.boolean(),
	dumps: count.max(1_000_000),
	messages: z.number().int().min(0).max(100_000_000),
	read: z.number().int().min(0).max(100_000_000),
	rebuilt: z.number().int().min(0).max(100_000_000),
	/** It was tried on an instrument: a slot was asked for twice, came alike, was written back, and read as it was. */
	onDevice: z.literal(true).optional()
});

export type ProfileReport = z.infer<typeof report>;
