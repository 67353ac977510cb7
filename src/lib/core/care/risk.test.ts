import { describe, expect, it } from 'vitest';
import { RISK_WEIGHTS, riskOf, riskSettingsSchema, type Standing } from '.';

const safe: Standing = {
	readable: true,
	hasMemory: true,
	versions: 4,
	lastVerifiedDays: 0,
	changedSince: false,
	unfinished: null,
	battery: null
};

describe('risk', () => {
	it('is nothing for what was verified today', () => {
		expect(riskOf(safe)).toEqual({ points: 0, parts: [], action: 'none' });
	});

	it.each([
		[{ versions: 0, lastVerifiedDays: null }, RISK_WEIGHTS.never, 'capture'],
		[{ versions: 0, lastVerifiedDays: null, readable: false }, RISK_WEIGHTS.never, 'import'],
		[{ lastVerifiedDays: null }, RISK_WEIGHTS.unproved, 'capture'],
		[{ lastVerifiedDays: 45 }, 15, 'capture'],
		[{ lastVerifiedDays: 4000 }, RISK_WEIGHTS.age, 'capture'],
		[{ changedSince: true }, RISK_WEIGHTS.changed, 'capture'],
		[{ unfinished: { id: 'x', got: 3 } }, RISK_WEIGHTS.unfinished, 'resume'],
		[{ battery: { ageYears: 8, lifeYears: 8 } }, RISK_WEIGHTS.battery, 'battery'],
		[{ battery: { ageYears: 5, lifeYears: 8 } }, 0, 'none'],
		[{ battery: { ageYears: 80, lifeYears: 8 } }, RISK_WEIGHTS.battery * 1.5, 'battery'],
		[{ hasMemory: false, versions: 0, lastVerifiedDays: null }, 0, 'none']
	] as [Partial<Standing>, number, string][])(
		'of %o is %i points, and the action %s',
		(change, points, action) => {
			expect(riskOf({ ...safe, ...change })).toMatchObject({ points, action });
		}
	);

	it('a reminder of one’s own comes when it is due, and weights can be changed', () => {
		const standing = { ...safe, lastVerifiedDays: 8, remindDays: 7 };
		expect(riskOf(standing).parts[0]).toMatchObject({ id: 'due', says: 'A backup is due: every 7 days' });
		expect(riskOf({ ...standing, remindDays: 9 }).parts.map(({ id }) => id)).toEqual(['age']);
		const settings = riskSettingsSchema.parse({ weights: { due: 50 }, ageFullDays: 16 });
		expect(riskOf(standing, settings).parts.map(({ id, points }) => [id, points])).toEqual([
			['due', 50],
			['age', 15]
		]);
	});

	it('adds its parts up, heaviest first', () => {
		const { points, parts } = riskOf({
			...safe,
			changedSince: true,
			lastVerifiedDays: 90,
			unfinished: { id: 'x', got: 1 }
		});
		expect(points).toBe(95);
		expect(parts.map(({ points: each }) => each)).toEqual([40, 30, 25]);
	});
});
