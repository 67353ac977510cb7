import { WIRE_BYTES_PER_SECOND, wireMs } from '../midi';
import type { TransferEvent } from './events';

export interface Progress {
	phase: string;
	/** Messages of this phase that are through, and all of them. */
	messagesDone: number;
	messages: number;
	doneBytes: number;
	totalBytes: number;
	/** 0–1 */
	share: number;
	/** From the wire's real rate and what is still to come, in ms. */
	leftMs: number;
	/** Measured over this phase. */
	bytesPerSecond: number;
	/** Share of the wire's 3,125 bytes/s that is used, 0–1. */
	wireShare: number;
}

/** Turns the events of a transfer into progress of the phase that runs. */
export class ProgressMeter {
	#phase: Extract<TransferEvent, { event: 'phase' }> = {
		event: 'phase',
		phase: 'identity',
		bytes: 0,
		ms: 0,
		messages: 1
	};
	#startedMs = 0;
	#startBytes = 0;
	#accepted = 0;
	#through = 0;
	#moving = 0;
	#received = 0;
	#sent = 0;

	note(event: TransferEvent, nowMs: number): void {
		if (event.event === 'phase') {
			this.#phase = event;
			this.#startedMs = nowMs;
			this.#accepted = this.#moving = this.#through = 0;
			this.#startBytes = event.phase === 'send' ? this.#sent : this.#received;
		} else if (event.event === 'received' || event.event === 'written') {
			this.#accepted += event.event === 'received' ? event.bytes.length : event.bytes;
			this.#through++;
			this.#moving = 0;
		} else if (event.event === 'hands done')
			this.#startedMs = Math.max(this.#startedMs, nowMs - wireMs(this.#received - this.#startBytes));
	}

	traffic(received: number, sent: number): void {
		this.#received = received;
		this.#sent = sent;
		this.#moving = Math.max(
			0,
			(this.#phase.phase === 'send' ? sent : received) - this.#startBytes - this.#accepted
		);
	}

	read(nowMs: number): Progress {
		const { phase, bytes, ms, messages } = this.#phase;
		const done = Math.min(bytes, this.#accepted + this.#moving);
		const elapsed = Math.max(1, nowMs - this.#startedMs);
		const moved = (phase === 'send' ? this.#sent : this.#received) - this.#startBytes;
		const bytesPerSecond =
			phase === 'identity' ? 0 : Math.min(WIRE_BYTES_PER_SECOND, (moved / elapsed) * 1000);
		const share = bytes > 0 ? done / bytes : 0;
		return {
			phase,
			messagesDone: this.#through,
			messages,
			doneBytes: done,
			totalBytes: bytes,
			share,
			leftMs: Math.max(0, ms * (1 - share)),
			bytesPerSecond,
			wireShare: bytesPerSecond / WIRE_BYTES_PER_SECOND
		};
	}
}
