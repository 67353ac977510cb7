import type { CheckReport } from '../core/drawer';
import { Problem, type ProblemData } from '../core/problem';
import { call } from '../hardware/api';
import { problemOf } from './words';

type Told = { done: number; of: number } | { report: CheckReport } | { problem: ProblemData };

/** A check of everything that is stored, while it goes on. */
export class StudioCheck {
	report = $state.raw<CheckReport | null>(null);
	problem = $state.raw<{ message: string; remedy: string } | null>(null);
	progress = $state.raw<{ done: number; of: number } | null>(null);
	running = $state(false);
	/** The copy that was made before something was rebuilt. */
	copy = $state<string | null>(null);
	#stop: AbortController | null = null;

	async run(quarantine: boolean): Promise<void> {
		this.running = true;
		this.problem = this.progress = null;
		this.#stop = new AbortController();
		try {
			const response = await fetch('/api/v1/check/stream', {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ quarantine }),
				signal: this.#stop.signal
			});
			const lines = response.body!.pipeThrough(new TextDecoderStream()).getReader();
			let rest = '';
			for (let part = await lines.read(); !part.done; part = await lines.read()) {
				const whole = (rest + part.value).split('\n');
				rest = whole.pop()!;
				for (const line of whole) this.#hear(JSON.parse(line) as Told);
			}
			if (!this.report && !this.problem)
				throw new Problem('check.cut', 'The check broke off.', 'Start it again.');
		} catch (error) {
			if (this.#stop.signal.aborted) this.problem = null;
			else if (error instanceof Problem) this.problem = error;
			else this.problem = { message: 'The server does not answer.', remedy: 'Look whether it still runs.' };
		}
		this.running = false;
		this.progress = null;
	}

	/** Rebuilds what is wrongly said of slots, and checks everything again. */
	async repair(): Promise<void> {
		this.running = true;
		this.problem = null;
		try {
			const { copy } = await call<{ copy: string | null }>('POST', '/check/repair');
			this.copy = copy;
			await this.run(false);
		} catch (error) {
			this.problem = problemOf(error);
		}
		this.running = false;
	}

	#hear(told: Told): void {
		if ('report' in told) this.report = told.report;
		else if ('problem' in told) this.problem = told.problem;
		else this.progress = told;
	}

	/** Calls the check off. */
	cancel(): void {
		this.#stop?.abort();
	}
}
