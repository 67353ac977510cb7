import type { PageGoal } from './count-pages';
import { touchesOf } from './page-start';
import { pressTable, type PageTask } from './page-task';

/** Controls that are left on each page when everything that is global has one. */
const roomOf = (task: PageTask): number =>
	Math.max(0, task.controls.length - task.targets.filter(({ global }) => global).length);

/**
 * Below what no layout can come, by counting alone.
 * @param allPlaced every target is known to have a place
 */
export function pageBounds(task: PageTask, allPlaced: boolean): Record<PageGoal, number> {
	const room = roomOf(task);
	const own = task.targets.filter(({ global }) => !global).length;
	const globals = task.targets.length - own;
	const table = pressTable(task);
	const usable = table[0].filter((presses) => presses < Infinity).length;
	const seats = usable * task.controls.length;
	/** A global takes a control from every page. */
	const fits = Math.max(
		...Array.from({ length: globals + 1 }, (_, g) => g + Math.min(own, seats - g * usable))
	);
	return {
		unplaced: Math.max(0, task.targets.length - fits),
		presses: allPlaced ? fewestPresses(task, room, table) : 0,
		scattered: 0,
		pages: allPlaced && own > 0 ? Math.max(1, Math.ceil(own / Math.max(1, room))) : 0
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
