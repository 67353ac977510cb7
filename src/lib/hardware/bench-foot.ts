import { benchValue, FULL_TRAVEL, playFoot, type BenchPedal } from '../core/pedal';
import { traffic } from './traffic.svelte';

/** What a box sends for a pedal, and on which port it is heard. */
export interface FootSends {
	port: string;
	controller: number;
	/** 1–16. */
	channel: number;
}

/** A foot on a simulated pedal: what the box makes of it is heard on the box's port, in its time. */
export class BenchFoot {
	readonly #pedal: BenchPedal;
	readonly #sends: FootSends;
	readonly #due = new Set<ReturnType<typeof setTimeout>>();
	#last: number | null = null;

	constructor(pedal: BenchPedal, sends: FootSends) {
		this.#pedal = pedal;
		this.#sends = sends;
	}

	#say(value: number): void {
		if (value === this.#last) return;
		this.#last = value;
		const { port, controller, channel } = this.#sends;
		traffic.note(port, 'received', Uint8Array.of(0xb0 | (channel - 1), controller, value));
	}

	/** The foot is at a place of the way, 0 heel – 1 toe. */
	moveTo(travel: number): void {
		this.#say(benchValue(this.#pedal, travel, Math.random()));
	}

	/** Heel, toe and back, with a rest at each, as often as is said. @returns how long that takes, in milliseconds */
	goThrough(times: number): number {
		this.letGo();
		const moves = Array.from({ length: times }, () => FULL_TRAVEL).flat();
		const { heard, untilMs } = playFoot(this.#pedal, moves, Math.random);
		for (const { atMs, value } of heard) {
			const timer = setTimeout(() => {
				this.#due.delete(timer);
				this.#say(value);
			}, atMs);
			this.#due.add(timer);
		}
		return untilMs;
	}

	/** Takes the foot away. */
	letGo(): void {
		for (const timer of this.#due) clearTimeout(timer);
		this.#due.clear();
	}
}
