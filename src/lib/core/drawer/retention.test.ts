import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
	judgeVersions,
	learn,
	nothingKnown,
	retentionSchema,
	slotsOfSpans,
	standingOf,
	VERSION_KINDS,
	type Aged,
	type Span,
	type VersionKind
} from '.';

const NOW = Date.UTC(2026, 10, 25);
const DAY = 86_400_000;
const rules = retentionSchema.parse({});
const WHOLE: Span[] = [['a', 0, 4]];
const version = (id: string, ageDays: number, more: Partial<Aged> = {}): Aged => {
	const takenMs = NOW - ageDays * DAY;
	return {
		id,
		kind: 'routine',
		takenMs,
		week: String(Math.floor((takenMs / DAY + 3) / 7)),
		month: new Date(takenMs).toISOString().slice(0, 7),
		world: 'hardware',
		verified: true,
		coverage: WHOLE,
		pinned: false,
		...more
	};
};
const gone = (versions: readonly Aged[], needed?: Map<string, string>) =>
	judgeVersions(versions, rules, NOW, needed)
		.filter(({ keep }) => !keep)
		.map(({ id }) => id);

const anyVersion = fc.record({
	age: fc.nat(3000),
	kind: fc.constantFrom(...(Object.keys(VERSION_KINDS) as VersionKind[])),
	verified: fc.boolean(),
	pinned: fc.boolean(),
	first: fc.nat(3),
	count: fc.integer({ min: 1, max: 4 }),
	bench: fc.boolean()
});
const lives = fc.array(anyVersion, { minLength: 1, maxLength: 60 }).map((list) =>
	list.map(({ age, kind, verified, pinned, first, count, bench }, i) =>
		version(String(i), age, {
			kind,
			verified,
			pinned,
			world: kind === 'imported' ? 'file' : bench ? 'bench' : 'hardware',
			coverage: [['a', first, Math.min(count, 4 - first)]]
		})
	)
);

describe('retention', () => {
	it('thins out old routine backups: weekly, then monthly', () => {
		const daily = Array.from({ length: 700 }, (_, i) => version(String(i), i));
		const left = 700 - gone(daily).length;
		expect(left).toBeGreaterThan(60 + 40);
		expect(left).toBeLessThan(60 + 50 + 15);
	});

	it('never lets a pinned, an imported, a needed or a young safety copy go', () => {
		fc.assert(
			fc.property(lives, fc.nat(10), (versions, need) => {
				const away = new Set(gone(versions, new Map([[String(need), 'part of a snapshot']])));
				expect(away.has(String(need))).toBe(false);
				for (const { id, pinned, kind, takenMs } of versions) {
					if (pinned || kind === 'imported') expect(away.has(id)).toBe(false);
					if (kind === 'safety' && NOW - takenMs < rules.safetyDays * DAY) expect(away.has(id)).toBe(false);
				}
			})
		);
	});

	it('never lowers what is known of any slot, in either world', () => {
		const known = (versions: readonly Aged[], world: string) => {
			let knowledge = nothingKnown;
			for (const { id, coverage, takenMs, verified, world: of } of versions)
				if (of === world && verified)
					knowledge = learn(knowledge, {
						versionId: id,
						proof: 'checksum',
						slots: slotsOfSpans(coverage).map((slot) => ({
							...slot,
							record: id,
							at: new Date(takenMs).toISOString()
						}))
					});
			return standingOf(knowledge, slotsOfSpans(WHOLE)).proved;
		};
		fc.assert(
			fc.property(lives, (versions) => {
				const away = new Set(gone(versions));
				const left = versions.filter(({ id }) => !away.has(id));
				for (const world of ['bench', 'hardware']) expect(known(left, world)).toEqual(known(versions, world));
			})
		);
	});

	it('of every week that has one, a full set stays: a one-slot read-back does not stand for the bank', () => {
		const week = [
			version('read back', 102, { kind: 'after restore', coverage: [['a', 2, 1]] }),
			version('full', 102.5),
			version('fuller', 102.7)
		];
		const newer = [version('new', 1)];
		expect(gone([...newer, ...week])).toEqual(['fuller']);
	});

	it('an unfinished dump is not the week’s where a whole one is', () => {
		const week = [
			version('unfinished', 102, { kind: 'unfinished', verified: false, coverage: [['a', 0, 3]] }),
			version('full', 102.5)
		];
		expect(gone([version('new', 1), ...week])).toEqual(['unfinished']);
		expect(gone([version('new', 1), week[0]])).toEqual([]);
	});

	it('says why', () => {
		const judged = judgeVersions([version('new', 0), version('old', 3000, { pinned: true })], rules, NOW);
		expect(judged.map(({ why }) => why)).toEqual(['the newest version', 'pinned']);
	});
});
