import type { Highs } from 'highs';
import { Problem } from '../../problem';
import { isBetter, lookFor, shownByCounting, type ShownOfGoal } from '../../plan/one-goal';
import { Solver } from '../../plan/solver';
import { countPages, faultsOfLayout, PAGE_GOALS, type PageGoal, type PageGoals } from './count-pages';
import { pageBounds } from './page-bounds';
import { columnsOf, pageModel, type ModelScope, type PageModel } from './page-model';
import { startPages } from './page-start';
import { checkPageTask, type PageLayout, type PageTask } from './page-task';
import { seat } from './seats';

export interface PageGoalResult extends ShownOfGoal {
	goal: PageGoal;
	value: number;
}

export interface PagePlan {
	format: 'silent-drawer.page-plan';
	version: 1;
	/** Every goal is proved, in its order. */
	proved: boolean;
	goals: PageGoalResult[];
	places: { target: string; page: number | null; control: string }[];
	unplaced: { target: string; why: string }[];
	/** What one who has the layout of today does, where there is one. */
	changes: string[];
	cancelled: boolean;
	tookMs: number;
}

export interface PagePlanOptions {
	/** Time for all goals together. */
	seconds: number;
	/** Now, in milliseconds. */
	now(): number;
	cancelled?(): boolean;
	/** How it is today; a change list is made from it. */
	today?: PageLayout;
	/** Told of each layout that is better than those before it. */
	onFound?(goals: PageGoals, layout: PageLayout): void;
}

/** Of the time that is left, a goal takes at most this much: those after it are looked at, too. */
const SHARE: Record<PageGoal, number> = { unplaced: 0.3, presses: 0.7, scattered: 0.6, pages: 1 };

/** A programme with more columns than this keeps no time limit: such goals stay open. */
const LARGEST = 16_000;

/**
 * Which target goes where: the goals of `count-pages.ts` one after another, each as good as it can be without making one
 * before it worse. What is given was counted and checked apart from what made it.
 * @throws Problem `page-task.reference`, `page-task.locks`
 */
export function planPages(highs: Highs, task: PageTask, options: PagePlanOptions): PagePlan {
	checkPageTask(task);
	const began = options.now();
	const solver = new Solver(highs, {
		seconds: options.seconds,
		now: options.now,
		cancelled: options.cancelled
	});
	let layout: PageLayout = seat(
		task,
		startPages(task, () => solver.over || options.now() - began > options.seconds * 250)
	);
	if (faultsOfLayout(task, layout).length > 0) layout = feasible(solver, task);
	let counted = countPages(task, layout);
	options.onFound?.(counted, layout);

	const take = (model: PageModel, values: Float64Array): void => {
		const { pageOf, fixed } = model.read(values);
		const next = seat(task, pageOf, fixed);
		if (faultsOfLayout(task, next).length > 0) return;
		const goals = countPages(task, next);
		if (!isBetter(PAGE_GOALS, goals, counted)) return;
		[layout, counted] = [next, goals];
		options.onFound?.(goals, next);
	};

	const results: PageGoalResult[] = [];
	for (const goal of PAGE_GOALS) {
		const allPlaced = counted.unplaced === 0;
		// When all have a place, more can be counted on.
		const floor = pageBounds(task, counted.unplaced)[goal];
		/** While an earlier goal is open, what would be best in this one is not known. */
		const settled = results.every((result) => result.proof !== null);
		let shown = shownByCounting(counted[goal], floor, settled);
		const scope: ModelScope = {
			functions: goal === 'scattered' || goal === 'pages',
			presses: goal !== 'unplaced',
			allPlaced
		};
		if (counted[goal] > floor && !solver.over && columnsOf(task, scope) <= LARGEST) {
			const model = pageModel(task, scope);
			const limits = PAGE_GOALS.slice(0, PAGE_GOALS.indexOf(goal)).map((before) => ({
				...model.goals[before],
				value: counted[before]
			}));
			shown = lookFor(solver, {
				...model.goals[goal],
				milp: model.milp.with((programme) => {
					for (const { terms, plus, value } of limits) programme.atMost(terms, value - plus);
				}),
				floor,
				settled,
				seconds: solver.leftSeconds * SHARE[goal],
				value: () => counted[goal],
				begin: () => model.write(layout),
				take: (values) => take(model, values)
			});
		}
		results.push({ goal, value: counted[goal], ...shown });
	}
	// What was found for a later goal may have been better in an earlier one.
	for (const result of results) result.value = counted[result.goal];

	return asPlan(task, layout, results, {
		today: options.today,
		cancelled: solver.cancelled,
		tookMs: Math.round(options.now() - began)
	});
}

/** A layout that was found before planning was stopped: counted, with what counting alone says of it, and nothing proved besides. */
export function stoppedPlan(
	task: PageTask,
	layout: PageLayout,
	{ today, tookMs }: { today?: PageLayout; tookMs: number }
): PagePlan {
	const counted = countPages(task, layout);
	const bounds = pageBounds(task, counted.unplaced);
	let settled = true;
	const results = PAGE_GOALS.map((goal): PageGoalResult => {
		const shown = shownByCounting(counted[goal], bounds[goal], settled);
		settled = shown.proof !== null;
		return { goal, value: counted[goal], ...shown };
	});
	return asPlan(task, layout, results, { today, cancelled: true, tookMs });
}

function asPlan(
	task: PageTask,
	layout: PageLayout,
	results: PageGoalResult[],
	{ today, cancelled, tookMs }: { today: PageLayout | undefined; cancelled: boolean; tookMs: number }
): PagePlan {
	return {
		format: 'silent-drawer.page-plan',
		version: 1,
		proved: results.every(({ proof }) => proof !== null),
		goals: results,
		places: task.targets.flatMap(({ id }) => {
			const place = layout.get(id);
			return place ? [{ target: id, ...place }] : [];
		}),
		unplaced: task.targets
			.filter(({ id }) => !layout.has(id))
			.map(({ id }) => ({ target: id, why: whyNot(task, id, results[0].proof !== null) })),
		changes: today ? changesFrom(today, layout) : [],
		cancelled,
		tookMs
	};
}

/** Any layout that keeps the locks, where the quick way found none. @throws Problem `page-task.locks` */
function feasible(solver: Solver, task: PageTask): PageLayout {
	const model = pageModel(task, { functions: false, presses: false, allPlaced: false });
	const { values } = solver.run(model.milp, { goal: model.goals.unplaced.terms, gap: 1e9 });
	const found = values ? model.read(values) : null;
	const layout = found ? seat(task, found.pageOf, found.fixed) : null;
	if (!layout || faultsOfLayout(task, layout).length > 0)
		throw new Problem(
			'page-task.locks',
			'No layout keeps all that is locked.',
			'Two locks want one place, or a group is locked to two pages: let one of them go.'
		);
	return layout;
}

function whyNot(task: PageTask, id: string, proved: boolean): string {
	const target = task.targets.find((each) => each.id === id)!;
	if (!proved) return 'No place was found in the time that was given.';
	if (target.global)
		return 'It would take a control from every page, and each is wanted by more of the others.';
	if (target.group)
		return `“${target.group}” stays on one page, and no page has room for all of it beside what else has to be there.`;
	if (target.controls.length > 0)
		return `The controls that suit it (${target.controls.join(', ')}) are taken on every page.`;
	return `There are ${task.pages.count * task.controls.length} places, and more that want one.`;
}

/** What has to be done to come from one layout to another, in words. */
function changesFrom(today: PageLayout, next: PageLayout): string[] {
	const where = (place: { page: number | null; control: string }) =>
		place.page === null ? `${place.control} of every page` : `page ${place.page}, ${place.control}`;
	return [
		...[...today]
			.filter(([id]) => !next.has(id))
			.map(([id, place]) => `${id} goes from ${where(place)}: there is no place for it.`),
		...[...next].flatMap(([id, place]) => {
			const before = today.get(id);
			if (!before) return [`${id} comes to ${where(place)}.`];
			return before.page === place.page && before.control === place.control
				? []
				: [`${id} moves from ${where(before)} to ${where(place)}.`];
		})
	];
}
