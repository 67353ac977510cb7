import { z } from 'zod';

/** One transfer in the tray: what is asked for, how far it is, how it ended. Kept over reloads, shared by all tabs. */
export const trayRowSchema = z.object({
	key: z.string(),
	/** What is wanted, as the query of `/transfers/check`. */
	ask: z.string(),
	deviceId: z.string(),
	name: z.string(),
	place: z.string(),
	direction: z.enum(['capture', 'restore']),
	state: z.enum(['open', 'waiting', 'running', 'over']),
	/** The tab that runs it. */
	owner: z.string().default(''),
	transferId: z.string().nullable().default(null),
	/** How it ended, in one line; why it did not begin, where it did not. */
	says: z.string().default(''),
	good: z.boolean().default(false),
	/** What the panel must show, as far as it was ticked; what it was set back to. */
	ticked: z.array(z.string()).default([]),
	setBack: z.array(z.string()).default([]),
	/** What its panel is still to be set back to. */
	owes: z.array(z.string()).default([]),
	title: z.string().default(''),
	reason: z.enum(['routine', 'before update']).default('routine'),
	pace: z.number().default(1),
	/** A device without a profile is listened to twice. */
	twice: z.boolean().default(true)
});
export type TrayRow = z.infer<typeof trayRowSchema>;
