import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_FACTS as nothing, type GateFacts } from './gate';
import { procedureSchema, type Procedure } from './procedure';
import {
	actOn,
	gateWhyNot,
	LEAST_REASON,
	procedureRunSchema,
	stateOf,
	type ProcedureRun,
	type RunAct,
	type RunState
} from './run';

const T0 = Date.parse('2026-11-28T10:00:00.000Z');
const time = (seconds: number) => new Date(T0 + seconds * 1000).toISOString();

const UPDATE = procedureSchema.parse({
	id: 'update',
	title: 'Firmware update',
	about: 'device',
	back: 'Send the old version, then restore the backup.',
	steps: [
		{ by: 'gate', id: 'kept', title: 'Backed up', says: 'x', holds: { is: 'backup', withinHours: 24 } },
		{ by: 'gate', id: 'there', title: 'Answers', says: 'x', holds: { is: 'answers', withinMinutes: 10 } },
		{
			by: 'choice',
			id: 'variant',
			title: 'Variant',
			says: 'x',
			of: [
				{ id: 'rack', title: 'Rack', version: '2.1R' },
				{ id: 'keys', title: 'Keys', version: '2.1' }
			]
		},
		{
			by: 'hand',
			id: 'button',
			title: 'Hold the button',
			says: 'x',
			when: { choice: 'variant', is: 'keys' }
		},
		{ by: 'gate', id: 'two', title: 'Two looked', says: 'x', holds: { is: 'people', count: 2 } },
		{ by: 'file', id: 'file', title: 'The file', says: 'x' },
		{ by: 'app', id: 'send', title: 'Send', says: 'x', act: 'send' },
		{ by: 'wait', id: 'wait', title: 'Wait', says: 'Do not touch it', seconds: 120 },
		{ by: 'gate', id: 'read', title: 'Version read', says: 'x', holds: { is: 'version', choice: 'variant' } },
		{ by: 'app', id: 'back', title: 'Restore', says: 'x', act: 'restore' }
	]
});
const fresh = (procedure: Procedure = UPDATE): ProcedureRun => procedureRunSchema.parse({ procedure });
const good = (seconds: number): GateFacts => ({
	...nothing,
	restoredAt: time(seconds),
	verifiedBackupAt: time(seconds - 600),
	answeredAt: time(seconds - 60),
	versionTold: '2.1r',
	people: ['Ada', 'Brun']
});

/** Every act of a run that goes well, with its time. */
const WELL: [RunAct, number][] = [
	[{ do: 'pass', step: 'kept' }, 0],
	[{ do: 'pass', step: 'there' }, 5],
	[{ do: 'choose', step: 'variant', variant: 'rack' }, 10],
	[{ do: 'pass', step: 'two' }, 20],
	[{ do: 'file', step: 'file', name: 'os.syx', sha256: 'a'.repeat(64) }, 25],
	[{ do: 'begin', step: 'send' }, 30],
	[{ do: 'done', step: 'send', note: '64 blocks' }, 90],
	[{ do: 'begin', step: 'wait' }, 95],
	[{ do: 'done', step: 'wait' }, 216],
	[{ do: 'pass', step: 'read' }, 220],
	[{ do: 'begin', step: 'back' }, 225],
	[{ do: 'done', step: 'back' }, 300]
];
const after = (acts: readonly [RunAct, number][], run = fresh()) =>
	acts.reduce((now, [act, seconds]) => actOn(now, act, good(seconds), time(seconds)), run);
/** What is left of a run that was killed: what was on disk. */
const killed = (run: ProcedureRun): ProcedureRun => procedureRunSchema.parse(JSON.parse(JSON.stringify(run)));

describe('a run', () => {
	it('goes step by step, leaves the steps of other variants out, and ends', () => {
		const run = after(WELL);
		expect(stateOf(run)).toMatchObject({ step: null, over: 'done' });
		expect(run.entries.some(({ step }) => step === 'button')).toBe(false);
		expect(() => actOn(run, { do: 'pass', step: 'kept' }, nothing, time(400))).toThrow('This run is over.');
	});

	it('that is killed after any step goes on where it was', () => {
		for (let cut = 0; cut <= WELL.length; cut++) {
			const before = after(WELL.slice(0, cut));
			const again = killed(before);
			expect(stateOf(again)).toEqual(stateOf(before));
			expect(after(WELL.slice(cut), again)).toEqual(after(WELL));
		}
	});

	it('says of a step of the app’s that it was begun and may have been broken off', () => {
		const run = killed(after(WELL.slice(0, 6)));
		expect(stateOf(run)).toMatchObject({ step: { id: 'send' }, begunAt: time(30) });
		const failed = actOn(run, { do: 'fail', step: 'send', note: 'the supply was cut' }, nothing, time(50));
		expect(stateOf(failed)).toMatchObject({ step: { id: 'send' }, begunAt: null });
		expect(() => actOn(failed, { do: 'done', step: 'send' }, nothing, time(60))).toThrow('was not begun');
	});

	it('goes back to a step: it and all after it are done again, and the record keeps what was', () => {
		const back = killed(actOn(after(WELL.slice(0, 9)), { do: 'back', step: 'variant' }, nothing, time(400)));
		expect(stateOf(back)).toMatchObject({ step: { id: 'variant' }, file: null, begunAt: null });
		expect([...stateOf(back).chosen]).toEqual([]);
		expect(back.entries).toHaveLength(10);
		expect(() => actOn(back, { do: 'back', step: 'send' }, nothing, time(401))).toThrow('not had its turn');
		// It was a slip: everything stands again, and both stay on record.
		const forth = killed(actOn(back, { do: 'forth' }, nothing, time(402)));
		expect(stateOf(forth)).toEqual(stateOf(after(WELL.slice(0, 9))));
		expect(forth.entries).toHaveLength(11);
		expect(() => actOn(forth, { do: 'forth' }, nothing, time(403))).toThrow('not the last thing');
	});

	it('takes the app’s part for done only where that is shown since it was begun', () => {
		const begun = after(WELL.slice(0, 11));
		const done: RunAct = { do: 'done', step: 'back' };
		expect(() => actOn(begun, done, { ...good(300), restoredAt: time(200) }, time(300))).toThrow(
			'No restore of everything in it was read back alike since'
		);
		// Of another version it would be no return of what the run has backed up.
		const kept = {
			...begun,
			entries: begun.entries.map((each) =>
				each.what === 'done' && each.step === 'send' ? { ...each, ref: 'v1' } : each
			)
		};
		const from = (restoredFrom: string) => () => actOn(kept, done, { ...good(300), restoredFrom }, time(300));
		expect(from('v2')).toThrow('not the backup of this run');
		expect(stateOf(from('v1')()).over).toBe('done');
		const passed = actOn(
			begun,
			{ do: 'overrule', step: 'back', reason: 'Restored it from its own card.' },
			nothing,
			time(300)
		);
		expect(passed.entries.at(-1)).toMatchObject({ what: 'overruled', why: 'The app has not seen it done.' });
		const check = procedureSchema.parse({
			...UPDATE,
			steps: [{ by: 'app', id: 'clock', title: 'Clock', says: 'x', act: 'clock-check' }]
		});
		const clock = actOn(fresh(check), { do: 'begin', step: 'clock' }, nothing, time(0));
		const seen = (followers: string[] | null, confirmed: string[]) => () =>
			actOn(clock, { do: 'done', step: 'clock', confirmed }, { ...nothing, followers }, time(5));
		expect(seen(['Ada', 'Brun'], ['Ada'])).toThrow('Not seen to follow: Brun.');
		expect(seen([], [])).toThrow('names nobody');
		expect(seen(null, [])).toThrow('names nobody');
		expect(stateOf(seen(['Ada', 'Brun'], ['Brun', 'Ada'])()).over).toBe('done');
	});

	it('asks whether the file is for the gear that was chosen, and for the version of the file', () => {
		const procedure = procedureSchema.parse({
			...UPDATE,
			steps: [
				UPDATE.steps[2],
				{ by: 'file', id: 'file', title: 'File', says: 'x' },
				{ by: 'gate', id: 'fits', title: 'Fits', says: 'x', holds: { is: 'variant', choice: 'variant' } },
				{ by: 'gate', id: 'read', title: 'Read', says: 'x', holds: { is: 'version', file: true } }
			]
		});
		const with_ = (variant: string, version: string) =>
			(
				[
					{ do: 'choose', step: 'variant', variant: 'rack' },
					{ do: 'file', step: 'file', name: 'a.syx', sha256: 'd'.repeat(64), variant, version }
				] as RunAct[]
			).reduce((now, act) => actOn(now, act, nothing, time(0)), fresh(procedure));
		expect(gateWhyNot(with_('keys', '2.1'), nothing, time(1))).toBe(
			'The file is for “Keys”, and this is “Rack”.'
		);
		expect(gateWhyNot(with_('', '2.1'), nothing, time(1))).toContain('does not say for which gear');
		const fits = actOn(with_('rack', '2.2'), { do: 'pass', step: 'fits' }, nothing, time(1));
		expect(gateWhyNot(fits, { ...nothing, versionTold: '2.1' }, time(2))).toBe(
			'It tells version 2.1, not 2.2.'
		);
		expect(gateWhyNot(fits, { ...nothing, versionTold: '2.2' }, time(2))).toBeNull();
	});

	it('waits by the clock, also one that was set back', () => {
		const waiting = after(WELL.slice(0, 8));
		const done: RunAct = { do: 'done', step: 'wait' };
		expect(() => actOn(waiting, done, nothing, time(200))).toThrow('15 seconds are left.');
		expect(() => actOn(waiting, done, nothing, time(-5000))).toThrow('left');
		expect(stateOf(actOn(waiting, done, nothing, time(215))).step?.id).toBe('read');
	});

	it('looks at a gate when it is passed, not when it last held', () => {
		const run = fresh();
		expect(gateWhyNot(run, good(0), time(0))).toBeNull();
		const old = { ...good(0), verifiedBackupAt: time(-25 * 3600) };
		expect(() => actOn(run, { do: 'pass', step: 'kept' }, old, time(0))).toThrow('older than 24 hours');
		// A backup of the future is no proof.
		const ahead = { ...good(0), verifiedBackupAt: time(60) };
		expect(gateWhyNot(run, ahead, time(0))).not.toBeNull();
		const wrong = { ...good(220), versionTold: '2.1' };
		expect(() => actOn(after(WELL.slice(0, 9)), { do: 'pass', step: 'read' }, wrong, time(220))).toThrow(
			'It tells version 2.1, not 2.1R.'
		);
		const same = { ...good(20), people: ['Ada', ' ada '] };
		expect(() => actOn(after(WELL.slice(0, 3)), { do: 'pass', step: 'two' }, same, time(20))).toThrow(
			'1 of 2'
		);
	});

	it('passes a gate that does not hold only with a written reason, which stays on record with why it did not', () => {
		const overrule = (reason: string) =>
			actOn(fresh(), { do: 'overrule', step: 'kept', reason }, nothing, time(0));
		expect(() => overrule('hurry')).toThrow('stays on record');
		expect(() => overrule('                     ')).toThrow('stays on record');
		expect(overrule('It is empty anyway.').entries).toEqual([
			{
				what: 'overruled',
				step: 'kept',
				at: time(0),
				why: 'No verified full backup shows all that it holds now.',
				reason: 'It is empty anyway.'
			}
		]);
	});

	it('has no order of clicks that passes a gate which does not hold', () => {
		const stepIds = UPDATE.steps.map(({ id }) => id);
		const anyStep = fc.constantFrom(...stepIds);
		const anyAct: fc.Arbitrary<RunAct> = fc.oneof(
			fc.record({ do: fc.constant('begin' as const), step: anyStep }),
			fc.record({ do: fc.constant('done' as const), step: anyStep }),
			fc.record({ do: fc.constant('fail' as const), step: anyStep, note: fc.constant('x') }),
			fc.record({
				do: fc.constant('choose' as const),
				step: anyStep,
				variant: fc.constantFrom('rack', 'keys', 'none')
			}),
			fc.record({
				do: fc.constant('file' as const),
				step: anyStep,
				name: fc.constant('os.syx'),
				sha256: fc.constant('b'.repeat(64))
			}),
			fc.record({ do: fc.constant('back' as const), step: anyStep }),
			fc.constant({ do: 'forth' as const }),
			fc.record({ do: fc.constant('pass' as const), step: anyStep }),
			fc.record({
				do: fc.constant('overrule' as const),
				step: anyStep,
				reason: fc.constantFrom('', 'short', 'We know what we do here.')
			})
		);
		// Half of the clicks are those that are due: chance alone would hardly get beyond the first gate.
		const due = fc.constant('due' as const);
		const facts = fc.record({
			backup: fc.boolean(),
			answers: fc.boolean(),
			version: fc.constantFrom(null, '2.1', '2.1R'),
			people: fc.constantFrom([], ['Ada'], ['Ada', 'Brun'])
		});
		let gatesPassed = 0;
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.oneof(anyAct, due, due), facts, fc.nat(90)), { maxLength: 90 }),
				(clicks) => {
					let run = fresh();
					let seconds = 0;
					for (const [click, know, passed] of clicks) {
						seconds += passed;
						const act = click === 'due' ? dueAct(stateOf(run)) : click;
						if (!act) break;
						const known: GateFacts = {
							...nothing,
							verifiedBackupAt: know.backup ? time(seconds - 60) : time(seconds - 48 * 3600),
							answeredAt: know.answers ? time(seconds) : null,
							versionTold: know.version,
							people: know.people
						};
						let next: ProcedureRun;
						try {
							next = actOn(run, act, known, time(seconds));
						} catch {
							continue;
						}
						const entry = next.entries.at(-1)!;
						const step = UPDATE.steps.find(({ id }) => id === entry.step)!;
						// Whatever passed a gate: it held by these facts, or its reason is on record.
						if (step.by === 'gate' && !['back', 'forth'].includes(entry.what)) {
							const variant = next.entries.findLast((each) => each.what === 'chosen');
							const holds = {
								kept: know.backup,
								there: know.answers,
								two: know.people.length === 2,
								read:
									know.version === (variant?.what === 'chosen' && variant.variant === 'rack' ? '2.1R' : '2.1')
							}[step.id as 'kept'];
							if (entry.what === 'held') expect(holds).toBe(true);
							else {
								expect(entry.what).toBe('overruled');
								expect(holds).toBe(false);
								expect(entry.what === 'overruled' && entry.reason.length >= LEAST_REASON).toBe(true);
							}
							gatesPassed++;
						}
						// Nothing before it is left open, and nothing that was written is gone.
						const earlier = UPDATE.steps.slice(0, UPDATE.steps.indexOf(step));
						for (const each of earlier) {
							if (entry.what === 'forth') break;
							// A going back that was taken back is none.
							const counted = next.entries.map((each, i) =>
								each.what === 'forth' || next.entries[i + 1]?.what === 'forth' ? { ...each, step: '' } : each
							);
							const lastEnd = counted.findLastIndex(
								({ step: id, what }) =>
									id === each.id && ['done', 'chosen', 'file', 'held', 'overruled'].includes(what)
							);
							// What was gone back before does not count any more.
							const lastBack = counted.findLastIndex(
								({ step: id, what }) =>
									what === 'back' && id !== '' && stepIds.indexOf(id) <= stepIds.indexOf(each.id)
							);
							if (each.when === null) expect(lastEnd).toBeGreaterThan(lastBack);
						}
						expect(next.entries.slice(0, -1)).toEqual(run.entries);
						run = killed(next);
					}
				}
			),
			{ numRuns: 400 }
		);
		expect(gatesPassed).toBeGreaterThan(300);
	});
});

/** The click that would take a run on. */
function dueAct({ step, begunAt }: RunState): RunAct | null {
	if (!step) return null;
	if (step.by === 'gate') return { do: 'pass', step: step.id };
	if (step.by === 'choice') return { do: 'choose', step: step.id, variant: 'rack' };
	if (step.by === 'file') return { do: 'file', step: step.id, name: 'os.syx', sha256: 'c'.repeat(64) };
	return step.by === 'hand' || begunAt !== null
		? { do: 'done', step: step.id }
		: { do: 'begin', step: step.id };
}

describe('a procedure', () => {
	it('is none where a step asks for a choice that does not come before it', () => {
		const faults = (steps: object[]) => {
			const read = procedureSchema.safeParse({ ...UPDATE, steps });
			return read.success ? [] : read.error.issues.map(({ message }) => message);
		};
		const hand = (id: string, more: object = {}) => ({ by: 'hand', id, title: id, says: 'x', ...more });
		expect(faults([hand('a'), hand('a')])).toEqual(['There are two steps “a”.']);
		expect(faults([hand('a', { when: { choice: 'b', is: 'c' } })])).toEqual([
			'“b” is no choice that comes before it.'
		]);
		expect(faults([{ by: 'gate', id: 'g', title: 'g', says: 'x', holds: { is: 'version' } }])).toEqual([
			'A version is said outright, by a choice, or by the file.'
		]);
	});
});
