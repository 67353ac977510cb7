import { countPages, faultsOfLayout, PAGE_GOALS, type PageGoals } from './count-pages';
import type { PageLayout, PageTask } from './page-task';

/** The best goals of all layouts that there are, found by trying every one. */
export function bruteForcePages(task: PageTask): PageGoals {
	let best: PageGoals | null = null;
	const layout = new Map<string, { page: number | null; control: string }>();
	const go = (at: number) => {
		if (at === task.targets.length) {
			if (faultsOfLayout(task, layout).length > 0) return;
			const goals = countPages(task, layout as PageLayout);
			const differs = PAGE_GOALS.find((goal) => best !== null && goals[goal] !== best[goal]);
			if (best === null || (differs && goals[differs] < best[differs])) best = goals;
			return;
		}
		const { id, global } = task.targets[at];
		const pages = global ? [null] : Array.from({ length: task.pages.count }, (_, page) => page + 1);
		for (const page of pages)
			for (const control of task.controls) {
				const clash = [...layout].some(
					([, other]) =>
						other.control === control && (other.page === null || page === null || other.page === page)
				);
				if (clash) continue;
				layout.set(id, { page, control });
				go(at + 1);
				layout.delete(id);
			}
		go(at + 1);
	};
	go(0);
	return best!;
}
