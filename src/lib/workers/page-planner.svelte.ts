import * as Comlink from 'comlink';
import { stoppedPlan, type PageGoals, type PageLayout, type PagePlan, type PageTask } from '../core/control';
import { Problem } from '../core/problem';
import { opened } from '../core/answered';
import { openPagesWorker } from './open-pages-worker';
import type { PageWorkshop } from './pages.worker';

/** Plans pages in a worker of its own, which is ended when it is stopped: the solver does not look up while it works. */
export class PagePlanner {
	running = $state(false);
	/** The best so far, while it is sought. */
	goals = $state.raw<PageGoals | null>(null);
	#layout: PageLayout | null = null;
	#stop: (() => void) | null = null;

	/** @throws Problem: the planner's, or `page-plan.stopped` where nothing was found before */
	async run(task: PageTask, seconds: number, today: PageLayout): Promise<PagePlan> {
		const worker = openPagesWorker();
		const began = performance.now();
		[this.running, this.goals, this.#layout] = [true, null, null];
		try {
			const stopped = new Promise<null>((resolve) => (this.#stop = () => resolve(null)));
			const answer = await Promise.race([
				Comlink.wrap<PageWorkshop>(worker).plan(
					task,
					{ seconds, today },
					Comlink.proxy((goals: PageGoals, layout: PageLayout) => {
						[this.goals, this.#layout] = [goals, layout];
					})
				),
				stopped
			]);
			if (answer) return opened(answer);
			const layout = this.#layout as PageLayout | null;
			if (layout) return stoppedPlan(task, layout, { today, tookMs: Math.round(performance.now() - began) });
			throw new Problem(
				'page-plan.stopped',
				'Planning was stopped.',
				'Nothing was found before, and nothing was changed.'
			);
		} finally {
			worker.terminate();
			this.running = false;
			this.#stop = null;
		}
	}

	stop(): void {
		this.#stop?.();
	}
}
