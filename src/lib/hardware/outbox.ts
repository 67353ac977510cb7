import { toHex } from '../core/midi';
import type { FinishOrder } from '../core/drawer';
import { Problem, type ProblemData } from '../core/problem';
import { firmwareOf, type CaptureOutcome, type TransferReport } from '../core/transfer';
import { call } from './api';
import type { LogLine } from './session-state';

const STORE_RETRY_MS = 1000;
const STORE_TRIES = 60;
/** Messages, and lines of the log, in one call. */
const MESSAGES = 100;
const LINES = 1000;

/** How far a transfer is told to the server: messages confirmed, and what is wrong with telling. */
export interface Told {
	stored: number;
	storing: ProblemData | null;
}

/** What the server is to be told of one transfer: every message as it arrives, the log in parts, how it ended. */
export class Outbox {
	/** Every message of this transfer in the order in which it is stored. */
	readonly #all: string[];
	readonly #queue: string[] = [];
	readonly #trace: LogLine[] = [];
	#part: number;
	#position: number;
	#storing: Promise<void> = Promise.resolve();
	/** Parts of the log go out one after another. */
	#telling: Promise<void> = Promise.resolve();
	/** Damage was seen on the line. */
	distrusted = false;

	constructor(
		private readonly id: string,
		before: { messages: readonly string[]; part: number },
		private readonly changed: (told: Told) => void
	) {
		this.#all = [...before.messages];
		this.#part = before.part;
		this.#position = before.messages.length;
	}

	/** Takes a message that was received, and tells it as soon as those before it are told. */
	add(bytes: Uint8Array): void {
		const hex = toHex(bytes);
		this.#all.push(hex);
		this.#queue.push(hex);
		this.#storing = this.#storing.then(() => this.#store());
	}

	log(line: LogLine): void {
		this.#trace.push(line);
	}

	async keepSafety(copy: CaptureOutcome): Promise<void> {
		await this.#insist(() =>
			call('POST', `/transfers/${this.id}/safety`, {
				messages: copy.messages.map((bytes) => toHex(bytes)),
				firmware: firmwareOf(copy.identity)
			})
		);
	}

	/** Tells the server the next lines of the log; an empty part still says that this transfer is alive. */
	flush(): Promise<void> {
		const told = this.#telling.then(async () => {
			const lines = this.#trace.slice(0, LINES);
			await call('POST', `/transfers/${this.id}/trace`, {
				part: this.#part,
				lines,
				distrusted: this.distrusted
			});
			this.#trace.splice(0, lines.length);
			if (lines.length > 0) this.#part++;
		});
		this.#telling = told.catch((error: unknown) => {
			this.#tell(error instanceof Problem ? error.toJSON() : null);
		});
		return told;
	}

	/** Tells how it ended, when everything before that is told. `used` are the messages that form the version. */
	async finish(
		report: TransferReport,
		proved: boolean,
		used: readonly Uint8Array[] | null,
		line: FinishOrder['line'] = null
	): Promise<void> {
		await this.#storing;
		do await this.#insist(() => this.flush());
		while (this.#trace.length > 0);
		await this.#insist(() =>
			call('POST', `/transfers/${this.id}/finish`, {
				...report,
				proved,
				line,
				use: used?.map((bytes) => this.#all.indexOf(toHex(bytes))) ?? null
			})
		);
	}

	async #store(): Promise<void> {
		if (this.#queue.length === 0) return;
		const messages = this.#queue.splice(0, MESSAGES);
		await this.#insist(async () => {
			await call('POST', `/transfers/${this.id}/messages`, {
				position: this.#position,
				messages,
				distrusted: this.distrusted
			});
			this.#position += messages.length;
		});
	}

	/** Repeats a call for as long as the server cannot be reached, and says so; nothing that arrived is let go. */
	async #insist<T>(work: () => Promise<T>): Promise<T> {
		for (let tries = 1; ; tries++) {
			try {
				const value = await work();
				this.#tell(null);
				return value;
			} catch (error) {
				if (!(error instanceof Problem) || error.code !== 'server.unreachable' || tries >= STORE_TRIES)
					throw error;
				this.#tell(error.toJSON());
				await new Promise((resolve) => setTimeout(resolve, STORE_RETRY_MS));
			}
		}
	}

	#tell(problem: ProblemData | null): void {
		this.changed({ stored: this.#position, storing: problem });
	}
}
