import * as Comlink from 'comlink';
import { opened } from '../core/answered';
import { Problem } from '../core/problem';
import type { Power, PowerPlan } from '../core/power';
import { openPowerWorker } from './open-power-worker';
import type { PowerWorkshop } from './power.worker';

/** Plans power in a worker of its own, which is ended when it is stopped: the solver does not look up while it works. */
export class PowerPlanner {
	running = $state(false);
	#stop: (() => void) | null = null;

	/** @throws Problem: the planner's, or `power-plan.stopped` */
	async run(power: Power, seconds: number): Promise<PowerPlan> {
		const worker = openPowerWorker();
		this.running = true;
		try {
			const stopped = new Promise<null>((resolve) => (this.#stop = () => resolve(null)));
			const answer = await Promise.race([Comlink.wrap<PowerWorkshop>(worker).plan(power, seconds), stopped]);
			if (answer) return opened(answer);
			throw new Problem('power-plan.stopped', 'Planning was stopped.', 'Nothing was changed.');
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
