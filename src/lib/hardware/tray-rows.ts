import type { TrayRow } from './tray-row';

export const TRAY_KEY = 'silent-drawer.tray';

/** The rows as they are kept in this browser; none where what is kept cannot be read. */
export async function keptRows(): Promise<TrayRow[]> {
	const kept = localStorage.getItem(TRAY_KEY);
	if (kept === null || kept === '[]') return [];
	// Fetched only where there is something to read.
	const { trayRowSchema } = await import('./tray-row');
	try {
		const found = trayRowSchema.array().safeParse(JSON.parse(kept));
		return found.success ? found.data : [];
	} catch {
		// Written by hand, or by another program: the tray begins empty, and nothing of the studio depends on it.
		return [];
	}
}

export const keepRows = (rows: readonly TrayRow[]): void =>
	localStorage.setItem(TRAY_KEY, JSON.stringify(rows));

/** The same with another part of the memory: an area, or all; chosen slots are given up. */
export function askForArea(ask: string, area: string | null): string {
	const query = new URLSearchParams(ask);
	query.delete('slots');
	query.delete('area');
	if (area) query.set('area', area);
	return query.toString();
}

/** The same with other wishes for what names slots that are moved; null where nothing is wished. */
export function askForLinks(ask: string, links: 'keep' | 'bring' | null): string {
	const query = new URLSearchParams(ask);
	query.delete('links');
	if (links) query.set('links', links);
	return query.toString();
}
