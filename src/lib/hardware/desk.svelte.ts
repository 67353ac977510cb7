import * as Comlink from 'comlink';
import { browser } from '$app/environment';
import { opened } from '../core/answered';
import type { Spoken, Touch } from '../core/bench';
import type { CalledAnswer, Described } from '../core/ci';
import type { Device } from '../core/gear';
import { Problem, problemOf, type ProblemData } from '../core/problem';
import type { PlayingQuestion, SceneSent, Step } from '../core/scene';
import type { DumpedFile, Sample } from '../core/sysex';
import type { AdapterVerdict, Audition, FileOutcome, SampleOutcome, Target } from '../core/transfer';
import { call } from './api';
import { forgetPlayed } from './forget-played';
import type { BenchWorker, Heard } from './bench.worker';
import type { PanelAction, PanelState } from './bench-room';
import { midiDesk, type Socket } from './midi-desk.svelte';
import type { LiveWorld } from '../core/drawer';
import type { SessionState, TransferOrder } from './session-state';
import { otherTabs } from './other-tabs.svelte';
import { traffic } from './traffic.svelte';

export const SPEEDS = [
	{ factor: 0.2, title: 'A fifth of wire speed' },
	{ factor: 1, title: 'Wire speed' },
	{ factor: 20, title: '20 × wire speed' },
	{ factor: 200, title: '200 × wire speed' }
] as const;
export type Speed = (typeof SPEEDS)[number]['factor'];

/** What a page asks of the desk: the world is the one that the line goes to. */
export type DeskOrder = Omit<TransferOrder, 'world'>;

/** What is done at a bench panel after which it may play something else. */
const PLAYS_ELSE: readonly PanelAction['act'][] = ['step', 'edit', 'rename', 'power'];
const SPEED_KEY = 'silent-drawer.bench-speed';
const WORLD_KEY = 'silent-drawer.world';

/** How a device is reached over the computer's ports. */
interface Way {
	out: Socket | null;
	in: Socket | null;
	/** Its memory can be asked for or listened to: it needs a way back. */
	readable: boolean;
}

/** What this tab does with devices: the transfers that run, on the bench or on real ports, and the last outcome. */
class Desk {
	world = $state<LiveWorld>('bench');
	/** Transfers that run, oldest first. */
	runs = $state.raw<SessionState[]>([]);
	/** The last transfer of this tab that ended. */
	last = $state.raw<SessionState | null>(null);
	problem = $state.raw<ProblemData | null>(null);
	speed = $state(1);
	/** Counts changes of bench panels, by unit. */
	panelTicks = $state<Record<string, number>>({});
	#worker: Comlink.Remote<BenchWorker> | null = null;
	/** How to call off transfers that run on real ports. */
	readonly #cancels = new Map<string, () => void>();

	/** The transfer that began first of those that run. */
	get running(): SessionState | null {
		return this.runs[0] ?? null;
	}

	/** How much faster than the wire this world runs. */
	get factor(): number {
		return this.world === 'bench' ? this.speed : 1;
	}

	/** A transfer that runs, in this tab or in another. */
	runOf(transferId: string): SessionState | null {
		return [...this.runs, ...otherTabs.runs].find((run) => run.transferId === transferId) ?? null;
	}

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
			void this.#worker.watchTraffic(
				Comlink.proxy((messages) => {
					for (const { port, way, bytes } of messages) traffic.note(port, way, bytes);
				})
			);
		}
		return this.#worker;
	}

	recall(): void {
		const stored = Number(localStorage.getItem(SPEED_KEY));
		if (SPEEDS.some(({ factor }) => factor === stored)) this.speed = stored;
		if (localStorage.getItem(WORLD_KEY) === 'hardware') this.world = 'hardware';
		if (this.#worker) void this.#worker.setSpeed(this.speed);
	}

	/** The world of a tab that nobody has set one for: the studio's own. Ports that were allowed before are opened again. */
	startIn(own: LiveWorld): void {
		if (localStorage.getItem(WORLD_KEY) === null) this.world = own;
		if (this.world === 'hardware') void midiDesk.wake();
	}

	setSpeed(factor: number): void {
		this.speed = factor;
		localStorage.setItem(SPEED_KEY, String(factor));
		void this.bench.setSpeed(factor);
	}

	/** Goes over to the other world; to real ports only when the browser allows them. @throws Problem */
	async setWorld(world: LiveWorld): Promise<void> {
		if (world === 'hardware') await midiDesk.ask();
		this.world = world;
		localStorage.setItem(WORLD_KEY, world);
	}

	async panel(unitId: string): Promise<PanelState> {
		return opened(await this.bench.panel(unitId));
	}

	async act(unitId: string, action: PanelAction): Promise<PanelState> {
		// Before the key is pressed: what the unit then says by itself is newer.
		if (PLAYS_ELSE.includes(action.act)) await forgetPlayed('bench', { units: [unitId] });
		return opened(await this.bench.act(unitId, action));
	}

	/** What a bench unit that is a controller says when it is touched, while a template plays. */
	async touchOnBench(unitId: string, control: string, how: Touch, template: number): Promise<Spoken[]> {
		return opened(await this.bench.touch(unitId, control, how, template));
	}

	async rollCallOnBench(unitIds: string[]): Promise<{ unitId: string; answers: CalledAnswer[] }[]> {
		return opened(await this.bench.rollCall(unitIds));
	}

	/** Asks a bench unit to describe itself. */
	async describeOnBench(unitId: string): Promise<Described> {
		return opened(await this.bench.describe(unitId));
	}

	async testOnBench(unitId: string, target: Target): Promise<AdapterVerdict> {
		return opened(await this.bench.testAdapter(unitId, target));
	}

	/** Sends universal messages to a bench unit; gives how many left. */
	async sendOnBench(unitId: string, messages: Uint8Array[]): Promise<number> {
		await forgetPlayed('bench', { units: [unitId] });
		return opened(await this.bench.sendTo(unitId, messages));
	}

	/** Sends messages to a bench unit, asks a question, and gives what came after it. */
	async sayOnBench(
		unitId: string,
		messages: readonly Uint8Array[],
		ask: Uint8Array | null
	): Promise<Uint8Array[] | null> {
		return opened(await this.bench.say(unitId, [...messages], ask));
	}

	/** Sends a scene's messages to a bench unit, and asks it what it plays. */
	async sendSceneOnBench(
		unitId: string,
		steps: readonly Step[],
		question: Pick<PlayingQuestion, 'ask' | 'timeoutMs'> | null
	): Promise<SceneSent> {
		return opened(
			await this.bench.sendScene(
				unitId,
				[...steps],
				question && { ask: question.ask, timeoutMs: question.timeoutMs }
			)
		);
	}

	/** Plays something on a bench unit; tells what its panel showed while it did. */
	async auditionOnBench(unitId: string, order: Audition): Promise<{ left: boolean; shown: Heard }> {
		return opened(await this.bench.audition(unitId, order));
	}

	/** Silences the bench; gives how many units it was sent to. */
	async panicOnBench(): Promise<number> {
		return opened(await this.bench.panic());
	}

	async receiveSampleOnBench(
		deviceId: number,
		number: number,
		progress: (packets: number, of: number) => void
	): Promise<SampleOutcome> {
		return opened(await this.bench.receiveSample(deviceId, number, Comlink.proxy(progress)));
	}

	async sendSampleOnBench(
		deviceId: number,
		sample: Sample,
		progress: (packets: number, of: number) => void
	): Promise<SampleOutcome> {
		return opened(await this.bench.sendSample(deviceId, sample, Comlink.proxy(progress)));
	}

	async receiveFileOnBench(
		deviceId: number,
		wanted: Pick<DumpedFile, 'type' | 'name'> | null,
		progress: (packets: number, of: number) => void
	): Promise<FileOutcome> {
		return opened(await this.bench.receiveFile(deviceId, wanted, Comlink.proxy(progress)));
	}

	async sendFileOnBench(
		deviceId: number,
		file: DumpedFile,
		progress: (packets: number, of: number) => void
	): Promise<FileOutcome> {
		return opened(await this.bench.sendFile(deviceId, file, Comlink.proxy(progress)));
	}

	/** Starts a transfer; resolves with its id as soon as it runs. The rest is told through `runs` and `last`. */
	async start(order: DeskOrder): Promise<string> {
		return (await this.begin(order)).transferId;
	}

	/**
	 * Begins a transfer: gives its id as soon as it runs, and a promise of its end.
	 * @throws Problem `desk.busy` where the device is busy already, and whatever keeps it from running
	 */
	begin(asked: DeskOrder): Promise<{ transferId: string; ended: Promise<SessionState> }> {
		const order: TransferOrder = { ...asked, world: this.world };
		const busy = this.runs.find(({ deviceId }) => deviceId === order.deviceId);
		if (busy)
			return Promise.reject(
				new Problem(
					'desk.busy',
					`A transfer with “${busy.deviceName}” is running.`,
					'Wait for its end, or cancel it.'
				)
			);
		this.problem = null;
		return new Promise((resolve, reject) => {
			// Progress and the end come over two channels: a late word of progress must not revive what is over.
			let over = false;
			let id: string | null = null;
			let settle: { ended(state: SessionState): void; failed(error: unknown): void };
			const ended = new Promise<SessionState>((done, failed) => (settle = { ended: done, failed }));
			ended.catch(() => undefined);
			const show = (state: SessionState) => {
				if (over) return;
				const at = this.runs.findIndex(({ transferId }) => transferId === state.transferId);
				this.runs = at < 0 ? [...this.runs, state] : this.runs.with(at, state);
				id = state.transferId;
				otherTabs.tell(state);
				resolve({ transferId: id, ended });
			};
			const leave = () => {
				over = true;
				if (id) {
					this.#cancels.delete(id);
					otherTabs.ended(id);
				}
				this.runs = this.runs.filter(({ transferId }) => transferId !== id);
			};
			const work = order.world === 'hardware' ? this.#onPorts(order, show) : this.#onBench(order, show);
			work.then(
				(state) => {
					id ??= state.transferId;
					leave();
					this.last = state;
					settle.ended(state);
					resolve({ transferId: state.transferId, ended });
				},
				(error: unknown) => {
					leave();
					const problem = problemOf(error, 'Reload the page and try again. What was confirmed is stored.');
					if (id) this.problem = problem.toJSON();
					settle.failed(problem);
					reject(problem);
				}
			);
		});
	}

	async #onBench(order: TransferOrder, show: (state: SessionState) => void): Promise<SessionState> {
		return opened(await this.bench.transfer(order, Comlink.proxy(show)));
	}

	async #onPorts(order: TransferOrder, show: (state: SessionState) => void): Promise<SessionState> {
		// The engine is fetched when something is transferred first; on the bench its worker has it.
		const [device, way, { runTransfer }, { realClock }] = await Promise.all([
			call<Device>('GET', `/devices/${order.deviceId}`),
			call<Way>('GET', `/devices/${order.deviceId}/way`),
			import('./transfer-run'),
			import('./real-clock')
		]);
		if (!way.out || (!way.in && way.readable))
			throw new Problem(
				'port.no-way',
				way.out
					? `Nothing comes back from “${device.name}” to the computer.`
					: `No port of the computer leads to “${device.name}”.`,
				'Find it: then its cables and ports are noted.'
			);
		const doing = `${order.direction === 'capture' ? 'backup' : 'restore'} of ${device.name}`;
		const line = await midiDesk.open(way.out, way.in, doing);
		order.line = {
			out: way.out.port,
			in: way.in?.port ?? null,
			outName: way.out.name,
			inName: way.in?.name ?? ''
		};
		try {
			const run = await runTransfer(order, realClock, () => Promise.resolve(line.link), show);
			this.#cancels.set(run.session.state.transferId, () => run.session.cancel());
			return await run.done;
		} finally {
			line.close();
		}
	}

	/** Calls a transfer off, whichever tab runs it. */
	cancel(transferId = this.running?.transferId): void {
		if (!transferId) return;
		if (!this.runs.some((run) => run.transferId === transferId)) return otherTabs.cancel(transferId);
		const onPorts = this.#cancels.get(transferId);
		if (onPorts) onPorts();
		else void this.bench.cancel(transferId);
	}

	/** The page goes away: what was received is left to be resumed. */
	leave(): void {
		for (const { transferId } of this.runs) navigator.sendBeacon(`/api/v1/transfers/${transferId}/abandon`);
	}
}

export const desk = new Desk();

if (browser) {
	desk.recall();
	otherTabs.onCancel = (transferId) => {
		if (desk.runs.some((run) => run.transferId === transferId)) desk.cancel(transferId);
	};
	addEventListener('pagehide', () => desk.leave());
}
