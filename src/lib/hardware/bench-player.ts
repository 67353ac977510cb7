import { traffic } from './traffic.svelte';

/** A simulated player of the bench: what it plays is heard on its port. */
export class BenchPlayer {
	readonly #port: string;
	/** 1–16. */
	readonly #channel: number;
	#down: number | null = null;

	constructor(name: string, channel: number) {
		this.#port = `${name} (bench)`;
		this.#channel = channel;
	}

	#say(status: number, ...data: [number, number]): void {
		traffic.note(this.#port, 'received', Uint8Array.of(status + this.#channel - 1, ...data));
	}
	/** Presses a key; one that is down comes up first. */
	press(key: number, velocity: number): void {
		this.release();
		this.#down = key;
		this.#say(0x90, key, velocity);
	}
	release(): void {
		if (this.#down !== null) this.#say(0x80, this.#down, 64);
		this.#down = null;
	}
	pedal(controller: number, down: boolean): void {
		this.#say(0xb0, controller, down ? 127 : 0);
	}
}
