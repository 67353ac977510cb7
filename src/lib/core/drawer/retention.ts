import { z } from 'zod';
import type { World } from './knowledge';
import { slotsOfSpans, type Span } from './spans';
import type { VersionKind } from './version-words';

/** Which versions may go. Ages in days. */
export const retentionSchema = z.object({
	/** Everything younger stays. */
	keepAllDays: z.number().int().min(1).max(3650).default(60),
	/** After that, a full set of each week until this age … */
	weeklyDays: z.number().int().min(0).max(36500).default(365),
	/** … and a full set of each month until this one; 0 keeps monthly ones for ever. */
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

/** What rules would let go, and what that would free. */
export interface KeepingPreview {
	rules: Retention;
	/** Versions that would go, with why. */
	going: (Judged & { deviceId: string; device: string; takenAt: string; title: string; bytes: number })[];
	staying: number;
	/** Bytes on disk that would be free: contents that nothing else needs. */
	freedBytes: number;
	/** Sounds whose last stay in a drawer would be forgotten. */
	soundsLost: number;
}

/** A version as retention sees it. */
export interface Aged {
	id: string;
	kind: VersionKind;
	/** ms since 1970. */
	takenMs: number;
	/** The week and the month that it belongs to, in the musician's time zone. */
	week: string;
	month: string;
	world: World;
	/** Whether what it holds was proved. */
	verified: boolean;
	/** The slots that it holds; empty for raw messages, which count as one slot. */
	coverage: readonly Span[];
	pinned: boolean;
	/** Let go by hand. */
	gone?: boolean;
}

const DAY_MS = 86_400_000;

/** Most versions of a device hold the same slots: each list of them is made once. */
function slotLists(): (version: Aged) => readonly string[] {
	const lists = new Map<string, readonly string[]>();
	return ({ world, coverage }) => {
		const key = `${world} ${JSON.stringify(coverage)}`;
		let list = lists.get(key);
		if (!list) {
			list =
				coverage.length === 0
					? [`${world} raw`]
					: slotsOfSpans(coverage).map(({ area, index }) => `${world} ${area}:${index}`);
			lists.set(key, list);
		}
		return list;
	};
}

/** Slots that were told of, and whether a version holds one that was not. */
class Held {
	readonly #slots = new Set<string>();
	readonly #lists = new Set<readonly string[]>();

	/** Takes slots in; tells whether one of them is new. */
	add(slots: readonly string[]): boolean {
		if (this.#lists.has(slots)) return false;
		this.#lists.add(slots);
		const before = this.#slots.size;
		for (const slot of slots) this.#slots.add(slot);
		return this.#slots.size > before;
	}
}

/**
 * The versions that hold all that any version of a time holds, proved where one of them proves it: newest first, each
 * for a slot that no chosen one holds.
 */
function fullSets(
	newestFirst: readonly Aged[],
	slotsOf: (version: Aged) => readonly string[],
	time: (version: Aged) => string
): Set<string> {
	const held = new Map<string, Held>();
	const chosen = new Set<string>();
	for (const proved of [true, false])
		for (const version of newestFirst) {
			if (version.verified !== proved || version.kind === 'safety') continue;
			let have = held.get(time(version));
			if (!have) held.set(time(version), (have = new Held()));
			if (have.add(slotsOf(version))) chosen.add(version.id);
		}
	return chosen;
}

/**
 * Judges a device's versions. Never gone: the newest version, for every slot the last proved content, pinned ones,
 * imported ones, those that something else needs (`needed`: snapshots, banks, transfers that wait, what is known of the
 * device now), and young safety copies. Of every week or month a full set stays, however few versions hold it.
 */
export function judgeVersions(
	versions: readonly Aged[],
	rules: Retention,
	now: number,
	needed: ReadonlyMap<string, string> = new Map()
): Judged[] {
	const newestFirst = versions.filter(({ gone }) => !gone).sort((a, b) => b.takenMs - a.takenMs);
	const byHand = versions
		.filter(({ gone }) => gone)
		.map(({ id }): Judged =>
			needed.has(id) ? { id, keep: true, why: needed.get(id)! } : { id, keep: false, why: 'you let it go' }
		);
	const slotsOf = slotLists();
	const weekly = fullSets(newestFirst, slotsOf, ({ week }) => week);
	const monthly = fullSets(newestFirst, slotsOf, ({ month }) => month);
	const proved = new Held();
	const judged = newestFirst.map((version, i): Judged => {
		const ageDays = (now - version.takenMs) / DAY_MS;
		const keep = (why: string): Judged => ({ id: version.id, keep: true, why });
		const last = version.verified && proved.add(slotsOf(version));
		if (i === 0) return keep('the newest version');
		if (last) return keep('it proves what no newer version proves');
		if (version.pinned) return keep('pinned');
		const need = needed.get(version.id);
		if (need) return keep(need);
		if (version.kind === 'imported') return keep('imported: it may be the only copy');
		if (version.kind === 'safety')
			return ageDays < rules.safetyDays
				? keep(`a safety copy younger than ${rules.safetyDays} days`)
				: { id: version.id, keep: false, why: `a safety copy older than ${rules.safetyDays} days` };
		if (ageDays < rules.keepAllDays) return keep(`younger than ${rules.keepAllDays} days`);
		if (ageDays < rules.weeklyDays && weekly.has(version.id)) return keep('part of its week’s full set');
		if ((rules.monthlyDays === 0 || ageDays < rules.monthlyDays) && monthly.has(version.id))
			return keep('part of its month’s full set');
		return { id: version.id, keep: false, why: 'newer ones of its week or month hold the same slots' };
	});
	return [...judged, ...byHand];
}
