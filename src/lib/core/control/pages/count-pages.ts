import type { PageLayout, PageTask } from './page-task';

/** What a layout is measured by, in this order; less is better. `docs/guides/control.md` defines them. */
export const PAGE_GOALS = ['unplaced', 'presses', 'scattered', 'pages'] as const;
export type PageGoal = (typeof PAGE_GOALS)[number];
export type PageGoals = Record<PageGoal, number>;

/** Fewest presses from a page to another, pages from 1, counted by walking. */
function walk({ count, direct, step, round }: PageTask['pages'], from: number, to: number): number {
	if (from === to) return 0;
	let least = direct ?? Infinity;
	if (step !== null)
		for (const way of [1, -1]) {
			let [at, presses] = [from, 0];
			while (at !== to) {
				at += way;
				if (round) at = ((at - 1 + count) % count) + 1;
				if (at < 1 || at > count) break;
				presses += step;
			}
			if (at === to) least = Math.min(least, presses);
		}
	return least;
}

/** Counts the goals from the layout and the songs alone: the set begins on page 1, and a hand goes only where it must. */
export function countPages(task: PageTask, layout: PageLayout): PageGoals {
	let [on, presses] = [1, 0];
	for (const { touches } of task.songs)
		for (const touch of touches) {
			const page = layout.get(touch)?.page ?? null;
			if (page === null) continue;
			presses += walk(task.pages, on, page);
			on = page;
		}
	const controlsOf = new Map<string, Set<string>>();
	for (const { id, function: what } of task.targets) {
		const place = layout.get(id);
		if (what && place) controlsOf.set(what, (controlsOf.get(what) ?? new Set()).add(place.control));
	}
	return {
		unplaced: task.targets.filter(({ id }) => !layout.has(id)).length,
		presses,
		scattered: [...controlsOf.values()].reduce((sum, controls) => sum + controls.size - 1, 0),
		pages: new Set([...layout.values()].flatMap(({ page }) => (page === null ? [] : [page]))).size
	};
}

/** What is wrong with a layout, in words; empty where it keeps every rule. Shares no code with what makes one. */
export function faultsOfLayout(task: PageTask, layout: PageLayout): string[] {
	const faults: string[] = [];
	const taken = new Map<string, string>();
	const take = (key: string, id: string) => {
		const other = taken.get(key);
		if (other !== undefined && other !== id) faults.push(`${other} and ${id} share a place`);
		taken.set(key, id);
	};
	for (const { id, global, controls } of task.targets) {
		const place = layout.get(id);
		if (!place) continue;
		if (!task.controls.includes(place.control)) faults.push(`${id} is on a control that is not there`);
		if (controls.length > 0 && !controls.includes(place.control))
			faults.push(`${id} is on a control that does not suit it`);
		if (global !== (place.page === null)) faults.push(`${id} is not on the pages it should be on`);
		if (place.page !== null && (place.page < 1 || place.page > task.pages.count))
			faults.push(`${id} is on a page that is not there`);
		else if (place.page !== null && walk(task.pages, 1, place.page) === Infinity)
			faults.push(`${id} is on a page to which nothing leads`);
		for (let page = 1; page <= task.pages.count; page++)
			if (place.page === null || place.page === page) take(`${page} ${place.control}`, id);
	}
	const groups = new Map<string, Set<number | null>>();
	for (const { id, group, global } of task.targets) {
		const place = layout.get(id);
		if (group && place && !global) groups.set(group, (groups.get(group) ?? new Set()).add(place.page));
	}
	for (const [group, pages] of groups) if (pages.size > 1) faults.push(`${group} is on ${pages.size} pages`);
	for (const { target, control, page } of task.locked) {
		const place = layout.get(target);
		if (place?.control !== control || (place.page ?? undefined) !== page)
			faults.push(`${target} is not where it is locked`);
	}
	for (const id of layout.keys())
		if (task.targets.every((target) => target.id !== id)) faults.push(`${id} is no target`);
	return faults;
}
