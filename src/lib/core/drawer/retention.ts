import { z } from 'zod';
import type { VersionKind } from './version';

/** Which versions may go. Ages in days. */
export const retentionSchema = z.object({
	/** Everything younger stays. */
	keepAllDays: z.number().int().min(1).max(3650).default(60),
	/** After that, the newest of each week until this age … */
	weeklyDays: z.number().int().min(0).max(36500).default(365),
	/** … and the newest of each month until this one; 0 keeps monthly ones for ever. */
	monthlyDays: z.number().int().min(0).max(36500).default(0),
	/** Safety copies stay this long at least. */
	safetyDays: z.number().int().min(1).max(3650).default(180)
});

export type Retention = z.infer<typeof retentionSchema>;

export interface Judged {
	id: string;
	keep: boolean;
	why: string;
}

interface Aged {
	id: string;
	kind: VersionKind;
	/** ISO 8601, UTC. */
	takenAt: string;
	/** The same, in ms since 1970. */
	takenMs: number;
	verified: boolean;
	missing: number;
	pinned: boolean;
}

const DAY_MS = 86_400_000;

/**
 * Judges a device's versions. Never gone: the newest version, the last verified one, pinned ones, imported ones,
 * those that something else needs (`needed`: snapshots, banks, transfers that wait), and young safety copies.
 */
export function judgeVersions(
	versions: readonly Aged[],
	rules: Retention,
	now: number,
	needed: ReadonlyMap<string, string> = new Map()
): Judged[] {
	const newestFirst = versions.toSorted((a, b) => b.takenAt.localeCompare(a.takenAt));
	const lastVerified = newestFirst.find(({ verified, missing }) => verified && missing === 0)?.id;
	const weeks = new Set<number>();
	const months = new Set<string>();
	return newestFirst.map((version, i): Judged => {
		const ageDays = (now - version.takenMs) / DAY_MS;
		const keep = (why: string): Judged => ({ id: version.id, keep: true, why });
		const week = Math.floor(version.takenMs / (7 * DAY_MS));
		const month = version.takenAt.slice(0, 7);
		const firstOfWeek = !weeks.has(week);
		const firstOfMonth = !months.has(month);
		if (version.kind !== 'safety') {
			weeks.add(week);
			months.add(month);
		}
		if (i === 0) return keep('the newest version');
		if (version.id === lastVerified) return keep('the last verified version');
		if (version.pinned) return keep('pinned');
		const need = needed.get(version.id);
		if (need) return keep(need);
		if (version.kind === 'imported') return keep('imported: it may be the only copy');
		if (version.kind === 'safety')
			return ageDays < rules.safetyDays
				? keep(`a safety copy younger than ${rules.safetyDays} days`)
				: { id: version.id, keep: false, why: `a safety copy older than ${rules.safetyDays} days` };
		if (ageDays < rules.keepAllDays) return keep(`younger than ${rules.keepAllDays} days`);
		if (ageDays < rules.weeklyDays && firstOfWeek) return keep('the newest of its week');
		if ((rules.monthlyDays === 0 || ageDays < rules.monthlyDays) && firstOfMonth)
			return keep('the newest of its month');
		return { id: version.id, keep: false, why: 'a newer one of its week or month stays' };
	});
}
