import type { Reason } from '../core/transfer';
import { Doing } from './doing.svelte';

/** A transfer in packets that is under way, or how the last one ended. */
export class PacketRun<T extends { reason: Reason | null }> {
	/** How far it is; `of` is 0 where that is not known. Null where nothing is under way. */
	progress = $state.raw<{ packets: number; of: number } | null>(null);
	outcome = $state.raw<T | null>(null);
	readonly doing = new Doing();
	/** Word of progress may come after the end, since it travels by another way. */
	#running = false;

	/** What a transfer tells how far it is. Called from another thread: what it gave back would have to travel there. */
	readonly tell = (packets: number, of: number): void => {
		if (this.#running) this.progress = { packets, of };
	};

	/** Carries one out; why it ended early is its problem. */
	async carryOut(work: () => Promise<T>): Promise<void> {
		this.outcome = null;
		this.progress = { packets: 0, of: 0 };
		this.#running = true;
		await this.doing.run(async () => {
			this.outcome = await work();
			const { reason } = this.outcome;
			if (reason) this.doing.problem = { message: reason.says, remedy: reason.remedy };
		});
		this.#running = false;
		this.progress = null;
	}
}
