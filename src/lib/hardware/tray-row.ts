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

const KEY = 'silent-drawer.tray';
export const TRAY_KEY = KEY;

/** The rows as they are kept in this browser; none where what is kept cannot be read. */
export function keptRows(): TrayRow[] {
	try {
		const found = trayRowSchema.array().safeParse(JSON.parse(localStorage.getItem(KEY) ?? '[]'));
		return found.success ? found.data : [];
	} catch {
		// Written by hand, or by another program: the tray begins empty, and nothing of the studio depends on it.
		return [];
	}
}

export const keepRows = (rows: readonly TrayRow[]): void => localStorage.setItem(KEY, JSON.stringify(rows));

/** The same with another part of the memory: an area, or all; chosen slots are given up. */
export function askForArea(ask: string, area: string | null): string {
	const query = new URLSearchParams(ask);
	query.delete('slots');
	query.delete('area');
	if (area) query.set('area', area);
	return query.toString();
}
