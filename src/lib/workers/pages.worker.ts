import * as Comlink from 'comlink';
import loadHighs from 'highs';
import wasmUrl from 'highs/runtime?url';
import { planPages, type PageGoals, type PageLayout, type PagePlan, type PageTask } from '$lib/core/control';
import { answered, type Answered } from '$lib/core/answered';

const workshop = {
	/** `show` is told of each better layout, a few times a second at most. */
	plan: (
		task: PageTask,
		{ seconds, today }: { seconds: number; today: PageLayout },
		show: (goals: PageGoals, layout: PageLayout) => void
	): Promise<Answered<PagePlan>> =>
		answered(async () =>
			planPages(await loadHighs({ locateFile: () => wasmUrl }), task, {
				seconds,
				today,
				now: () => performance.now(),
				onFound: show
			})
		)
};

export type PageWorkshop = typeof workshop;
Comlink.expose(workshop);
