import fc from 'fast-check';
import loadHighs, { type Highs } from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { bruteForcePages } from './brute-pages.fixture';
import { countPages, faultsOfLayout, PAGE_GOALS } from './count-pages';
import { pageTaskSchema, type PageTask } from './page-task';
import { planPages, type PagePlan } from './plan-pages';

let highs: Highs;
beforeAll(async () => {
	highs = await loadHighs();
});

const taskOf = (more: object): PageTask =>
	pageTaskSchema.parse({ format: 'silent-drawer.page-task', version: 1, ...more });
const plan = (task: PageTask, more: object = {}) =>
	planPages(highs, task, { seconds: 20, now: () => performance.now(), ...more });
const layoutOf = ({ places }: PagePlan) =>
	new Map(places.map(({ target, ...place }) => [target, place] as const));
const valuesOf = ({ goals }: PagePlan) => Object.fromEntries(goals.map(({ goal, value }) => [goal, value]));

/** A task small enough to try every layout of it. */
const smallTask = fc
	.record({
		controls: fc.integer({ min: 1, max: 3 }),
		pages: fc.integer({ min: 1, max: 3 }),
		direct: fc.constantFrom(1, 2, null),
		step: fc.constantFrom(1, 2, null),
		round: fc.boolean(),
		targets: fc.array(
			fc.record({
				what: fc.constantFrom('', '', 'cut', 'mix'),
				group: fc.constantFrom('', '', '', 'pair'),
				global: fc.integer({ min: 0, max: 5 }).map((n) => n === 0),
				suits: fc.constantFrom([], [], [], [0], [0, 1])
			}),
			{ minLength: 1, maxLength: 4 }
		),
		touches: fc.array(fc.nat({ max: 9 }), { maxLength: 9 }),
		lock: fc.boolean()
	})
	.map(({ controls, pages, direct, step, round, targets, touches, lock }) => {
		const names = Array.from({ length: controls }, (_, c) => `c${c}`);
		const list = targets.map(({ what, group, global, suits }, t) => ({
			id: `t${t}`,
			function: what,
			group: global ? '' : group,
			global,
			controls: suits.filter((c) => c < controls).map((c) => names[c])
		}));
		const [first] = list;
		const reachable = direct !== null || step !== null ? pages : 1;
		return taskOf({
			controls: names,
			pages: { count: pages, direct, step, round },
			targets: list,
			songs: [{ touches: touches.map((n) => `t${n % list.length}`) }],
			locked:
				lock && !first.global
					? [{ target: 't0', control: first.controls[0] ?? names[0], page: reachable }]
					: []
		});
	});

describe('planning the pages', () => {
	it('is the best of all layouts in every goal, in their order, and proved', () => {
		let tried = 0;
		fc.assert(
			fc.property(smallTask, (task) => {
				tried++;
				const found = plan(task);
				expect(faultsOfLayout(task, layoutOf(found))).toEqual([]);
				expect(valuesOf(found)).toEqual(bruteForcePages(task));
				expect(valuesOf(found)).toEqual(countPages(task, layoutOf(found)));
				expect(found.proved).toBe(true);
				expect(found.unplaced.length + found.places.length).toBe(task.targets.length);
			}),
			{ numRuns: 320 }
		);
		expect(tried).toBeGreaterThanOrEqual(300);
	}, 120_000);

	it('says how far it came when it is stopped, and what it gives keeps every rule', () => {
		const task = taskOf({
			controls: Array.from({ length: 8 }, (_, c) => `c${c}`),
			pages: { count: 6 },
			targets: Array.from({ length: 40 }, (_, t) => ({ id: `t${t}`, function: `f${t % 8}` })),
			songs: [{ touches: Array.from({ length: 120 }, (_, i) => `t${(i * i * 7 + i * 3 + (i % 7)) % 40}`) }]
		});
		const found = plan(task, { cancelled: () => true });
		expect(found.cancelled).toBe(true);
		expect(found.proved).toBe(false);
		expect(faultsOfLayout(task, layoutOf(found))).toEqual([]);
		for (const { value, bound, proof } of found.goals) {
			expect(bound).toBeLessThanOrEqual(value);
			if (proof) expect(bound).toBe(value);
		}
		// What comes after an open goal is not proved, either.
		const open = found.goals.findIndex(({ proof }) => proof === null);
		expect(found.goals.slice(open).every(({ proof }) => proof === null)).toBe(true);
		expect(found.goals.map(({ goal }) => goal)).toEqual([...PAGE_GOALS]);
	});

	it('answers a task beyond all measure with what it found, and calls it open', () => {
		const ids = Array.from({ length: 300 }, (_, t) => `t${t}`);
		const task = taskOf({
			controls: Array.from({ length: 64 }, (_, c) => `c${c}`),
			pages: { count: 32 },
			targets: ids.map((id, t) => ({ id, function: `f${t % 20}`, group: t < 100 ? 'all' : '' })),
			songs: [{ touches: ids.map((_, i) => `t${(i * i) % 300}`) }]
		});
		const found = plan(task, { seconds: 2 });
		expect(faultsOfLayout(task, layoutOf(found))).toEqual([]);
		expect(found.goals[0]).toEqual({ goal: 'unplaced', value: 36, bound: 36, proof: 'counted' });
		expect(found.proved).toBe(false);
	});

	it('says what to change from what is there today', () => {
		const task = taskOf({
			controls: ['a', 'b'],
			pages: { count: 1 },
			targets: [{ id: 'cut' }, { id: 'mix' }],
			songs: [],
			locked: [{ target: 'cut', control: 'a', page: 1 }]
		});
		const { changes } = plan(task, {
			today: new Map([
				['cut', { page: 1, control: 'b' }],
				['old', { page: 1, control: 'a' }]
			])
		});
		expect(changes).toEqual([
			'old goes from page 1, a: there is no place for it.',
			'cut moves from page 1, b to page 1, a.',
			'mix comes to page 1, b.'
		]);
	});

	it.each([
		['a touch of nothing', { songs: [{ touches: ['x'] }] }, 'page-task.reference'],
		[
			'a lock of a page that is not there',
			{ locked: [{ target: 'cut', control: 'a', page: 9 }] },
			'page-task.reference'
		],
		[
			'two locks to one place',
			{
				locked: [
					{ target: 'cut', control: 'a', page: 1 },
					{ target: 'mix', control: 'a', page: 1 }
				]
			},
			'page-task.locks'
		]
	])('refuses %s', (_, more, code) => {
		const task = taskOf({
			controls: ['a', 'b'],
			pages: { count: 2 },
			targets: [{ id: 'cut' }, { id: 'mix' }],
			songs: [],
			...more
		});
		expect(() => plan(task)).toThrow(expect.objectContaining({ code }));
	});
});
