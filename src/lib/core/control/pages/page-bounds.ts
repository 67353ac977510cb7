import type { PageGoal } from './count-pages';
import { touchesOf } from './page-start';
import { pressTable, type PageTask } from './page-task';

/** Controls that are left on each page when everything that is global has one. */
const roomOf = (task: PageTask): number =>
	Math.max(0, task.controls.length - task.targets.filter(({ global }) => global).length);

/**
 * Below what no layout can come, by counting alone.
 * @param unplaced so many targets have no place, as is known when it is asked for the goals after that one
 */
export function pageBounds(task: PageTask, unplaced: number): Record<PageGoal, number> {
	const room = roomOf(task);
	const globals = task.targets.filter(({ global }) => global).length;
	const groups = new Map<string, number>();
	for (const { id, group, global } of task.targets)
		if (!global) groups.set(group || `alone ${id}`, (groups.get(group || `alone ${id}`) ?? 0) + 1);
	/** Of a group no more have a place than one page has controls. */
	const own = [...groups.values()].reduce((sum, size) => sum + Math.min(size, task.controls.length), 0);
	const table = pressTable(task);
	const usable = table[0].filter((presses) => presses < Infinity).length;
	const seats = usable * task.controls.length;
	/** A global takes a control from every page. */
	const fits = Math.max(
		...Array.from({ length: globals + 1 }, (_, g) => g + Math.min(own, seats - g * usable))
	);
	return {
		unplaced: Math.max(0, task.targets.length - fits),
		presses: unplaced === 0 ? fewestPresses(task, room, table) : 0,
		scattered: 0,
		pages: Math.ceil(
			Math.max(0, task.targets.length - globals - unplaced) /
				Math.max(1, unplaced === 0 ? room : task.controls.length)
		)
	};
}

/**
 * While a page stays, no more targets are touched than fit on it: the songs are cut as late as can be, and each cut is a
 * change of page. (To cut later never makes more pieces; so these are the fewest.)
 */
function fewestPresses(task: PageTask, room: number, table: readonly number[][]): number {
	let changes = 0;
	let here = new Set<number>();
	for (const t of touchesOf(task)) {
		if (here.has(t)) continue;
		if (here.size >= room) {
			changes++;
			here = new Set();
		}
		here.add(t);
	}
	const least = Math.min(...table[0].filter((presses) => presses > 0));
	return changes * (least === Infinity ? 0 : least);
}
