import type { Spoken, Touch } from '../core/bench';
import { SurfaceUnit, type Surface } from '../core/control';
import { traffic } from './traffic.svelte';

type Ask = (control: string, how: Touch) => Promise<Spoken[]>;

/** A hand at a simulated controller: what it touches is heard on the controller's port, in its time. */
export class BenchHand {
	readonly #unit: SurfaceUnit;
	readonly #surface: Surface;
	readonly #due = new Set<ReturnType<typeof setTimeout>>();

	/** Asks a unit that has a memory of its own what it says; without one it says what left the works. */
	readonly #ask: Ask | null;

	constructor(surface: Surface, ask: Ask | null = null) {
		this.#surface = surface;
		this.#unit = new SurfaceUnit(surface);
		this.#ask = ask;
	}

	/** The page that the panel shows. */
	turnTo(page: number): void {
		this.#unit.page = page;
	}

	async touch(id: string, how: Touch): Promise<void> {
		const { controls, ports } = this.#surface;
		const control = controls.find((each) => each.id === id);
		const port = ports.find((each) => each.id === control?.port) ?? ports[0];
		for (const { afterMs, bytes } of this.#ask ? await this.#ask(id, how) : this.#unit.touch(id, how)) {
			const timer = setTimeout(() => {
				this.#due.delete(timer);
				traffic.note(`${this.#surface.model} ${port.name}`, 'received', Uint8Array.from(bytes));
			}, afterMs);
			this.#due.add(timer);
		}
	}

	/** Takes the hand away. */
	letGo(): void {
		for (const timer of this.#due) clearTimeout(timer);
		this.#due.clear();
	}
}
