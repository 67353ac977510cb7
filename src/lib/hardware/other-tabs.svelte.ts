import { browser } from '$app/environment';
import type { SessionState } from './session-state';

type Word =
	| { kind: 'run'; state: SessionState }
	| { kind: 'end'; transferId: string }
	| { kind: 'cancel'; transferId: string };

/** Lines of the log and slots that are told on: enough to follow, and cheap to copy. */
const TOLD = 64;
/** A transfer that nobody speaks of any more is no longer shown as one that runs, in ms. */
const SILENCE_MS = 5000;

/** What the other tabs transfer at this moment, and how they are told to stop. */
class OtherTabs {
	runs = $state.raw<SessionState[]>([]);
	/** Called when another tab wants a transfer of this one called off. */
	onCancel: (transferId: string) => void = () => undefined;
	/** Called when a transfer of another tab is over: more is known than before. */
	onEnd: () => void = () => undefined;
	readonly #channel = browser ? new BroadcastChannel('silent-drawer.runs') : null;
	readonly #heardAt = new Map<string, number>();

	constructor() {
		this.#channel?.addEventListener('message', ({ data }: MessageEvent<Word>) => this.#hear(data));
		if (browser) setInterval(() => this.#forget(), SILENCE_MS);
	}

	#hear(word: Word): void {
		if (word.kind === 'cancel') return this.onCancel(word.transferId);
		const id = word.kind === 'run' ? word.state.transferId : word.transferId;
		const rest = this.runs.filter(({ transferId }) => transferId !== id);
		if (word.kind === 'run') {
			this.#heardAt.set(id, performance.now());
			this.runs = [...rest, word.state];
		} else {
			this.runs = rest;
			this.onEnd();
		}
	}

	#forget(): void {
		const old = performance.now() - SILENCE_MS;
		const left = this.runs.filter(({ transferId }) => (this.#heardAt.get(transferId) ?? 0) > old);
		if (left.length < this.runs.length) this.runs = left;
	}

	/** Tells the other tabs how a transfer of this one stands. */
	tell(state: SessionState): void {
		this.#channel?.postMessage({
			kind: 'run',
			state: { ...state, log: state.log.slice(-8), through: state.through.slice(-TOLD) }
		} satisfies Word);
	}

	ended(transferId: string): void {
		this.#channel?.postMessage({ kind: 'end', transferId } satisfies Word);
	}

	/** Asks the tab that runs a transfer to call it off. */
	cancel(transferId: string): void {
		this.#channel?.postMessage({ kind: 'cancel', transferId } satisfies Word);
	}
}

export const otherTabs = new OtherTabs();
