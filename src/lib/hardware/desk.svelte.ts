import * as Comlink from 'comlink';
import { browser } from '$app/environment';
import { Problem, type ProblemData } from '../core/problem';
import type { Answer, BenchWorker } from './bench.worker';
import type { PanelAction, PanelState } from './bench-room';
import type { SessionState, TransferOrder } from './session';

export const SPEEDS = [
	{ factor: 1, title: 'Wire speed' },
	{ factor: 20, title: '20 × wire speed' },
	{ factor: 200, title: '200 × wire speed' }
] as const;

const SPEED_KEY = 'silent-drawer.bench-speed';

function unwrap<T>(answer: Answer<T>): T {
	if ('ok' in answer) return answer.ok;
	const { code, message, remedy, detail } = answer.problem;
	throw new Problem(code, message, remedy, detail);
}

/** What this tab does with devices: the bench in its worker, the transfer that runs, the last outcome. */
class Desk {
	running = $state.raw<SessionState | null>(null);
	/** The last transfer of this tab that ended. */
	last = $state.raw<SessionState | null>(null);
	problem = $state.raw<ProblemData | null>(null);
	speed = $state(1);
	/** Counts changes of bench panels, by unit. */
	panelTicks = $state<Record<string, number>>({});
	#worker: Comlink.Remote<BenchWorker> | null = null;

	get bench(): Comlink.Remote<BenchWorker> {
		if (!this.#worker) {
			const worker = new Worker(new URL('./bench.worker.ts', import.meta.url), {
				type: 'module',
				name: 'bench'
			});
			this.#worker = Comlink.wrap<BenchWorker>(worker);
			void this.#worker.setSpeed(this.speed);
			void this.#worker.watchPanels(
				Comlink.proxy((unitId: string) => {
					this.panelTicks[unitId] = (this.panelTicks[unitId] ?? 0) + 1;
				})
			);
		}
		return this.#worker;
	}

	restoreSpeed(): void {
		const stored = Number(localStorage.getItem(SPEED_KEY));
		if (SPEEDS.some(({ factor }) => factor === stored)) this.speed = stored;
		if (this.#worker) void this.#worker.setSpeed(this.speed);
	}

	setSpeed(factor: number): void {
		this.speed = factor;
		localStorage.setItem(SPEED_KEY, String(factor));
		void this.bench.setSpeed(factor);
	}

	async panel(unitId: string): Promise<PanelState> {
		return unwrap(await this.bench.panel(unitId));
	}

	async act(unitId: string, action: PanelAction): Promise<PanelState> {
		return unwrap(await this.bench.act(unitId, action));
	}

	/** Starts a transfer; resolves with its id as soon as it runs. The rest is told through `running` and `last`. */
	start(order: TransferOrder): Promise<string> {
		if (this.running)
			return Promise.reject(
				new Problem(
					'desk.busy',
					`A transfer with “${this.running.deviceName}” is running.`,
					'Wait for its end, or cancel it.'
				)
			);
		this.problem = null;
		return new Promise((resolve, reject) => {
			// Progress and the end come over two channels: a late word of progress must not revive what is over.
			let over = false;
			const show = (state: SessionState) => {
				if (!over) this.running = state;
				resolve(state.transferId);
			};
			this.bench.transfer(order, Comlink.proxy(show)).then(
				(answer) => {
					over = true;
					this.running = null;
					if ('ok' in answer) {
						this.last = answer.ok;
						resolve(answer.ok.transferId);
					} else {
						this.problem = answer.problem;
						reject(new Problem(answer.problem.code, answer.problem.message, answer.problem.remedy));
					}
				},
				(error: unknown) => {
					over = true;
					this.running = null;
					reject(error instanceof Error ? error : new Error(String(error)));
				}
			);
		});
	}

	cancel(): void {
		if (this.running) void this.bench.cancel(this.running.transferId);
	}

	/** The page goes away: what was received is left to be resumed. */
	leave(): void {
		if (this.running) navigator.sendBeacon(`/api/v1/transfers/${this.running.transferId}/abandon`);
	}
}

export const desk = new Desk();

if (browser) {
	desk.restoreSpeed();
	addEventListener('pagehide', () => desk.leave());
}
