import { Milp, type Cell, type Terms } from '../../plan/milp';
import type { PageGoal } from './count-pages';
import { touchesOf } from './page-start';
import { pressTable, type PageLayout, type PageTask } from './page-task';
import { walkOf } from './page-walk';

/** The programme, what each goal is in it, and the way between its columns and layouts. */
export interface PageModel {
	milp: Milp;
	goals: Record<PageGoal, { terms: Terms; plus: number }>;
	/** Pages of targets, and controls of those whose control is in the programme. */
	read(values: Float64Array): { pageOf: Map<string, number | null>; fixed: Map<string, string> };
	/** The columns for a layout, to begin with. */
	write(layout: PageLayout): Float64Array;
}

/** What of the task the programme holds: the more, the slower. */
export interface ModelScope {
	/** Controls of targets that share a function, which only `scattered` asks for. */
	functions: boolean;
	/** Presses along the songs. */
	presses: boolean;
	/** Every target is known to have a place. */
	allPlaced: boolean;
}

/**
 * The task as a mixed-integer programme. A target that suits any control and shares no function has a page and no
 * control: whoever is left over on a page sits where there is room, since all the others are seated one by one.
 */
export function pageModel(task: PageTask, { functions, presses, allPlaced }: ModelScope): PageModel {
	const milp = new Milp();
	const table = pressTable(task);
	const pages = Array.from({ length: task.pages.count }, (_, page) => page);
	const locked = new Map(task.locked.map((lock) => [lock.target, lock]));
	const members = new Map<string, number[]>();
	task.targets.forEach(({ function: what }, t) => {
		if (what) members.set(what, [...(members.get(what) ?? []), t]);
	});
	const shared = (t: number) => (members.get(task.targets[t].function)?.length ?? 0) > 1;
	const suits = (t: number, control: string) => {
		const { id, controls } = task.targets[t];
		const lock = locked.get(id);
		return lock ? lock.control === control : controls.length === 0 || controls.includes(control);
	};
	const seated = (t: number) =>
		task.targets[t].global ||
		locked.has(task.targets[t].id) ||
		task.targets[t].controls.length > 0 ||
		(functions && shared(t));

	/** Page of each target; controls of those that are seated, for globals alone. */
	const onPage = task.targets.map(({ global }) => (global ? [] : pages.map(() => milp.choice())));
	const anywhere = task.targets.map(({ global }, t) =>
		global
			? task.controls.map((control) => {
					const column = milp.choice();
					if (!suits(t, control)) milp.fix(column, 0);
					return column;
				})
			: []
	);
	const seats = task.targets.map(({ global }, t) =>
		!global && seated(t)
			? pages.map(() =>
					task.controls.map((control) => {
						const column = milp.choice();
						if (!suits(t, control)) milp.fix(column, 0);
						return column;
					})
				)
			: null
	);
	const placedBy = (t: number): Cell[] =>
		[...onPage[t], ...anywhere[t]].map((column) => [column, 1] as const);
	task.targets.forEach(({ id }, t) => {
		const lock = locked.get(id);
		if (lock || allPlaced) milp.equal(placedBy(t), 1);
		else milp.atMost(placedBy(t), 1);
		if (lock?.page !== undefined) milp.fix(onPage[t][lock.page - 1], 1);
		for (const page of pages) {
			if (onPage[t].length === 0) continue;
			if (table[0][page] === Infinity) milp.fix(onPage[t][page], 0);
			const own = seats[t]?.[page];
			if (own) milp.equal([...own.map((column): Cell => [column, 1]), [onPage[t][page], -1]], 0);
		}
	});
	for (const page of pages) {
		milp.atMost(
			task.targets.flatMap((_, t): Cell[] => [
				...onPage[t].slice(page, page + 1).map((column): Cell => [column, 1]),
				...anywhere[t].map((column): Cell => [column, 1])
			]),
			task.controls.length
		);
		task.controls.forEach((_, c) =>
			milp.atMost(
				task.targets.flatMap((__, t): Cell[] => [
					...(seats[t] ? [[seats[t][page][c], 1] as Cell] : []),
					...anywhere[t].slice(c, c + 1).map((column): Cell => [column, 1])
				]),
				1
			)
		);
	}
	const groups = new Map<string, number[]>();
	task.targets.forEach(({ group, global }, t) => {
		if (group && !global) groups.set(group, [...(groups.get(group) ?? []), t]);
	});
	const homes = [...groups.values()].map((all) => {
		const columns = pages.map(() => milp.choice());
		milp.atMost(
			columns.map((column): Cell => [column, 1]),
			1
		);
		for (const t of all) for (const page of pages) milp.needs(onPage[t][page], columns[page]);
		return { all, columns };
	});
	const used = pages.map((page) => {
		const column = milp.choice();
		task.targets.forEach((_, t) => {
			if (onPage[t].length > 0) milp.needs(onPage[t][page], column);
		});
		return column;
	});

	const groupOf = new Map([...groups.values()].flatMap((all, g) => all.map((t) => [t, g] as const)));
	const walk = presses ? walkOf(task, milp, onPage, table, allPlaced, groupOf) : null;

	const alike = functions
		? [...members.values()]
				.filter((all) => all.length > 1)
				.map((all) => {
					const at = task.controls.map(() => milp.choice());
					const any = milp.choice();
					for (const t of all)
						task.controls.forEach((_, c) =>
							milp.row(
								[
									...(seats[t] ? seats[t].map((row): Cell => [row[c], 1]) : []),
									...anywhere[t].slice(c, c + 1).map((column): Cell => [column, 1]),
									[at[c], -1]
								],
								-Infinity,
								0
							)
						);
					milp.row(
						[[any, 1], ...all.flatMap((t) => placedBy(t).map(([column]): Cell => [column, -1]))],
						-Infinity,
						0
					);
					return { all, at, any };
				})
		: [];

	return {
		milp,
		goals: {
			unplaced: {
				terms: new Map(task.targets.flatMap((_, t) => placedBy(t).map(([column]) => [column, -1]))),
				plus: task.targets.length
			},
			presses: walk?.goal ?? { terms: new Map(), plus: 0 },
			scattered: {
				terms: new Map(
					alike.flatMap(({ at, any }) => [...at.map((column) => [column, 1] as const), [any, -1] as const])
				),
				plus: 0
			},
			pages: { terms: new Map(used.map((column) => [column, 1])), plus: 0 }
		},
		read(values) {
			const yes = (column: number) => values[column] > 0.5;
			const pageOf = new Map<string, number | null>();
			const fixed = new Map<string, string>();
			task.targets.forEach(({ id }, t) => {
				const page = onPage[t].findIndex(yes);
				if (page >= 0) pageOf.set(id, page);
				else if (anywhere[t].some(yes)) pageOf.set(id, null);
				const c = (seats[t] && page >= 0 ? seats[t][page] : anywhere[t]).findIndex(yes);
				if (c >= 0) fixed.set(id, task.controls[c]);
			});
			return { pageOf, fixed };
		},
		write(layout) {
			const values = new Float64Array(milp.columns);
			task.targets.forEach(({ id, global }, t) => {
				const place = layout.get(id);
				if (!place) return;
				const c = task.controls.indexOf(place.control);
				if (global) values[anywhere[t][c]] = 1;
				else {
					values[onPage[t][place.page! - 1]] = 1;
					if (seats[t]) values[seats[t][place.page! - 1][c]] = 1;
					values[used[place.page! - 1]] = 1;
				}
			});
			const pageOf = (t: number) => {
				const page = layout.get(task.targets[t].id)?.page;
				return page ? page - 1 : null;
			};
			for (const { all, columns } of homes) {
				const page = all.map(pageOf).find((each) => each !== null);
				if (page !== undefined && page !== null) values[columns[page]] = 1;
			}
			for (const { all, at, any } of alike)
				for (const t of all) {
					const place = layout.get(task.targets[t].id);
					if (place) values[at[task.controls.indexOf(place.control)]] = values[any] = 1;
				}
			walk?.write(values, pageOf);
			return values;
		}
	};
}

/** About how many columns the programme of a task has. */
export function columnsOf(task: PageTask, { functions, presses, allPlaced }: ModelScope): number {
	const locked = new Set(task.locked.map(({ target }) => target));
	const seated = task.targets.filter(
		({ id, controls, function: what }) => controls.length > 0 || locked.has(id) || (functions && what !== '')
	).length;
	const touches = presses ? touchesOf(task).length * (allPlaced ? 1 : task.pages.count) : 0;
	return task.pages.count * (task.targets.length + seated * task.controls.length) + touches;
}
