import * as Comlink from 'comlink';
import type { LatenessReport, MadePlan, Plan, Policy, SolveProgress } from '../core/plan';
import { Problem } from '../core/problem';
import type { Rig } from '../core/rig';
import { opened } from '../core/answered';
import type { Music, PlanWorkshop } from './plan.worker';

/** The planner and the wire's simulation in their worker. */
class Planner {
	running = $state(false);
	progress = $state.raw<SolveProgress | null>(null);
	/** The best plan so far, while it is sought. */
	draft = $state.raw<MadePlan | null>(null);
	#worker: Worker | null = null;
	#remote: Comlink.Remote<PlanWorkshop> | null = null;
	#stop: ((problem: Problem) => void) | null = null;

	get #workshop(): Comlink.Remote<PlanWorkshop> {
		if (!this.#remote) {
			this.#worker = new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' });
			this.#remote = Comlink.wrap<PlanWorkshop>(this.#worker);
		}
		return this.#remote;
	}

	/** @throws Problem: the planner's, or `plan.stopped` */
	async run(
		rig: Rig,
		order: { policy: Policy; seconds: number },
		title: string,
		supposed: string[]
	): Promise<MadePlan> {
		this.running = true;
		this.progress = null;
		this.draft = null;
		const started = performance.now();
		const made = (plan: Plan): MadePlan => ({
			title,
			rig,
			plan,
			tookMs: performance.now() - started,
			supposed
		});
		try {
			const stopped = new Promise<never>((_, reject) => (this.#stop = reject));
			const solving = this.#workshop.plan(
				rig,
				order,
				Comlink.proxy((progress: SolveProgress) => void (this.progress = progress)),
				Comlink.proxy((plan: Plan) => {
					if (this.running) this.draft = made(plan);
				})
			);
			return made(opened(await Promise.race([solving, stopped])));
		} catch (error) {
			// What was found before it was stopped is kept: it holds all rules, and nothing of it is called proved that is not.
			const best = this.draft as MadePlan | null;
			if (best && error instanceof Problem && error.code === 'plan.stopped')
				return { ...best, plan: { ...best.plan, cancelled: true } };
			throw error;
		} finally {
			this.running = false;
			this.draft = null;
			this.#stop = null;
		}
	}

	/** The solver does not look up while it works, so its worker is ended; the next run begins a new one. */
	cancel(): void {
		this.#worker?.terminate();
		this.#worker = null;
		this.#remote = null;
		this.#stop?.(
			new Problem(
				'plan.stopped',
				'Planning was stopped.',
				'Nothing was changed, and no plan was found before.'
			)
		);
	}

	async play(
		rigs: Rig[],
		music: Music,
		options: { runningStatus: boolean; usb: boolean }
	): Promise<{ reports: LatenessReport[]; unheard: { channel: number; messages: number }[] }> {
		return opened(await this.#workshop.play(rigs, music, options));
	}
}

export const planner = new Planner();
