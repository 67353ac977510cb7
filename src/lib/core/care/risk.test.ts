import { describe, expect, it } from 'vitest';
import { learn, nothingKnown, standingOf, touched, wrote, type Knowledge, type Proof } from '../drawer';
import { RISK_WEIGHTS, riskOf, riskSettingsSchema, type Standing } from '.';

const NOW = Date.UTC(2026, 10, 25);
const daysBack = (days: number) => new Date(NOW - days * 86_400_000).toISOString();
const refs = Array.from({ length: 64 }, (_, index) => ({ area: 'a', index }));
/** What is known after the first `slots` slots were read so many days ago. */
const readBack = (days: number, slots = 64, proof: Proof = 'checksum') =>
	learn(nothingKnown, {
		versionId: 'v',
		proof,
		slots: refs.slice(0, slots).map((ref) => ({ ...ref, record: 'r', at: daysBack(days) }))
	});
const known = (knowledge: Knowledge) => ({ known: standingOf(knowledge, refs) });

const safe: Standing = {
	readable: true,
	hasMemory: true,
	...known(readBack(0)),
	versions: 4,
	elsewhere: '',
	keptElsewhere: false,
	unfinished: null,
	question: null,
	battery: null
};
const none = known(nothingKnown);

describe('risk', () => {
	it('is nothing for what was verified today', () => {
		expect(riskOf(safe, NOW)).toEqual({ points: 0, parts: [], action: 'none' });
	});

	it.each([
		[{ versions: 0, ...none }, RISK_WEIGHTS.never, 'capture'],
		[{ versions: 0, ...none, elsewhere: 'only on the bench' }, RISK_WEIGHTS.never, 'capture'],
		[
			{ versions: 0, ...none, elsewhere: 'only files are kept', keptElsewhere: true },
			RISK_WEIGHTS.unproved,
			'capture'
		],
		[{ versions: 0, ...none, readable: false }, RISK_WEIGHTS.never, 'import'],
		[known(readBack(1, 64, 'none')), RISK_WEIGHTS.unproved, 'capture'],
		[known(readBack(1, 60)), RISK_WEIGHTS.unproved, 'capture'],
		[known(readBack(45)), 15, 'capture'],
		[known(readBack(4000)), RISK_WEIGHTS.age, 'capture'],
		[known(touched(readBack(0.2), daysBack(0.1))), RISK_WEIGHTS.changed, 'capture'],
		[
			known(wrote(readBack(0.2), { kind: 'unknown', at: daysBack(0.1), by: 't', slots: refs.slice(0, 12) })),
			RISK_WEIGHTS.torn,
			'mend'
		],
		[
			known(wrote(readBack(0.2), { kind: 'sent', at: daysBack(0.1), by: 't', slots: refs.slice(0, 12) })),
			RISK_WEIGHTS.sent,
			'capture'
		],
		[{ question: { versionId: 'v', says: 'wiped?' } }, RISK_WEIGHTS.question, 'answer'],
		[{ unfinished: { id: 'x', got: 3 } }, RISK_WEIGHTS.unfinished, 'resume'],
		[{ battery: { ageYears: 8, lifeYears: 8 } }, RISK_WEIGHTS.battery, 'battery'],
		[{ battery: { ageYears: 5, lifeYears: 8 } }, 0, 'none'],
		[{ battery: { ageYears: 80, lifeYears: 8 } }, RISK_WEIGHTS.battery * 1.5, 'battery'],
		[{ hasMemory: false, versions: 0, ...none }, 0, 'none']
	] as [Partial<Standing>, number, string][])(
		'of case %# is %i points, and the action %s',
		(change, points, action) => {
			expect(riskOf({ ...safe, ...change }, NOW)).toMatchObject({ points, action });
		}
	);

	it('half-written memory and what looks wiped are never offered for a backup', () => {
		const torn = wrote(touched(readBack(80), daysBack(2)), {
			kind: 'unknown',
			at: daysBack(1),
			by: 't',
			slots: refs.slice(0, 3)
		});
		const { parts } = riskOf({ ...safe, ...known(torn), remindDays: 1 }, NOW);
		expect(parts.map(({ action }) => action)).not.toContain('capture');
		const asked = { question: { versionId: 'v', says: 'wiped?' } };
		expect(
			riskOf({ ...safe, ...known(readBack(80)), ...asked }, NOW).parts.map(({ action }) => action)
		).toEqual(['answer', 'answer']);
	});

	it('a system that is being sent comes before everything else, and nothing is backed up meanwhile', () => {
		const updating = { updating: { runId: 'r', says: 'A new system was begun' } };
		const risk = riskOf({ ...safe, ...known(readBack(80)), ...updating, remindDays: 1 }, NOW);
		expect(risk).toMatchObject({ action: 'run' });
		expect(risk.parts[0]).toMatchObject({ id: 'updating', points: RISK_WEIGHTS.updating });
		expect(risk.parts.map(({ action }) => action)).not.toContain('capture');
	});

	it('an update that is planned counts until everything was read within a week before it', () => {
		const planned = { updatePlanned: 'Update to 1.07 on 4 December' };
		const ids = (days: number, more: Partial<Standing> = planned) =>
			riskOf({ ...safe, ...known(readBack(days)), ...more }, NOW).parts.map(({ id }) => id);
		expect(ids(8)).toContain('update');
		expect(ids(3)).not.toContain('update');
		expect(ids(8, {})).not.toContain('update');
		expect(
			riskOf({ ...safe, ...known(touched(readBack(3), daysBack(1))), ...planned }, NOW).parts.map(
				({ id }) => id
			)
		).toContain('update');
	});

	it('known faults that cost sounds and overdue service count a little, and lead to the service book', () => {
		const more = { losesSounds: 'wipes itself', overdue: { count: 2, says: 'Tune' } };
		expect(riskOf({ ...safe, ...more }, NOW)).toMatchObject({
			points: RISK_WEIGHTS.fault + RISK_WEIGHTS.service,
			action: 'service'
		});
		expect(riskOf({ ...safe, ...more }, NOW).parts[1].says).toBe('2 things overdue: Tune');
		expect(riskOf({ ...safe, hasMemory: false, ...more }, NOW).points).toBe(RISK_WEIGHTS.service);
	});

	it('a reminder of one’s own comes when it is due, and weights can be changed', () => {
		const standing = { ...safe, ...known(readBack(8)), remindDays: 7 };
		expect(riskOf(standing, NOW).parts[0]).toMatchObject({
			id: 'due',
			says: 'A backup is due: every 7 days'
		});
		expect(riskOf({ ...standing, remindDays: 9 }, NOW).parts.map(({ id }) => id)).toEqual(['age']);
		const settings = riskSettingsSchema.parse({ weights: { due: 50 }, ageFullDays: 16 });
		expect(riskOf(standing, NOW, settings).parts.map(({ id, points }) => [id, points])).toEqual([
			['due', 50],
			['age', 15]
		]);
	});

	it('adds its parts up, heaviest first', () => {
		const { points, parts } = riskOf(
			{
				...safe,
				...known(touched(readBack(90), daysBack(1))),
				unfinished: { id: 'x', got: 1 }
			},
			NOW
		);
		expect(points).toBe(95);
		expect(parts.map(({ points: each }) => each)).toEqual([40, 30, 25]);
	});
});
