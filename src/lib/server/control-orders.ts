import { z } from 'zod';
import { DISPLAY_CHARSET_IDS, pageTaskSchema } from '../core/control';

/** Names to be shortened for a display. */
export const fitNamesSchema = z.object({
	names: z.array(z.string().max(60)).min(1).max(64),
	characters: z.number().int().min(1).max(64),
	charset: z.enum(DISPLAY_CHARSET_IDS).default('ascii')
});

/** Pages to be planned, and for how long at most. */
export const planPagesSchema = z.object({
	task: pageTaskSchema,
	seconds: z.number().min(0.1).max(600).default(20)
});
