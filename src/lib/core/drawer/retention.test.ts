import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeVersions, retentionSchema, VERSION_KINDS, type VersionKind } from '.';

const NOW = Date.UTC(2026, 10, 25);
const DAY = 86_400_000;
const rules = retentionSchema.parse({});
const version = (
	id: string,
	ageDays: number,
	more: Partial<{ kind: VersionKind; verified: boolean; missing: number; pinned: boolean }> = {}
) => ({
	id,
	kind: 'routine' as VersionKind,
	takenAt: new Date(NOW - ageDays * DAY).toISOString(),
	takenMs: NOW - ageDays * DAY,
	verified: true,
	missing: 0,
	pinned: false,
	...more
});
const gone = (versions: ReturnType<typeof version>[], needed?: Map<string, string>) =>
	judgeVersions(versions, rules, NOW, needed)
		.filter(({ keep }) => !keep)
		.map(({ id }) => id);

describe('retention', () => {
	it('thins out old routine backups: weekly, then monthly', () => {
		const daily = Array.from({ length: 700 }, (_, i) => version(String(i), i));
		const left = 700 - gone(daily).length;
		expect(left).toBeGreaterThan(60 + 40);
		expect(left).toBeLessThan(60 + 50 + 15);
	});

	it('never lets the last verified version, a pinned, an imported, a needed or a young safety copy go', () => {
		const kinds = Object.keys(VERSION_KINDS) as VersionKind[];
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.nat(3000), fc.constantFrom(...kinds), fc.boolean(), fc.nat(1), fc.boolean()), {
					minLength: 1,
					maxLength: 60
				}),
				fc.nat(10),
				(list, need) => {
					const versions = list.map(([age, kind, verified, missing, pinned], i) =>
						version(String(i), age, { kind, verified, missing, pinned })
					);
					const needed = new Map([[String(need), 'part of a snapshot']]);
					const away = new Set(gone(versions, needed));
					expect(away.has(String(need))).toBe(false);
					for (const { id, pinned, kind, takenMs } of versions) {
						if (pinned || kind === 'imported') expect(away.has(id)).toBe(false);
						if (kind === 'safety' && NOW - takenMs < rules.safetyDays * DAY) expect(away.has(id)).toBe(false);
					}
					const whole = versions.filter(({ verified, missing }) => verified && missing === 0);
					if (whole.length > 0) expect(whole.some(({ id }) => !away.has(id))).toBe(true);
				}
			)
		);
	});

	it('says why', () => {
		const judged = judgeVersions([version('new', 0), version('old', 3000, { pinned: true })], rules, NOW);
		expect(judged.map(({ why }) => why)).toEqual(['the newest version', 'pinned']);
	});
});
