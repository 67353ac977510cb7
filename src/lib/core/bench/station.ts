import { Problem } from '../problem';
import type { Profile } from '../profile';
import type { Clock, Link, LinkListener } from '../transfer';
import { Cable } from './cable';
import type { Fault } from './faults';
import { MODELS } from './models';
import { seededRandom, type Random } from './random';
import type { SimulatedDevice, UnitState } from './unit';

/** One simulated device with its two cables, seen from the app as a link. */
export class BenchStation implements Link {
	readonly unit: SimulatedDevice;
	readonly #listeners = new Set<LinkListener>();
	readonly #out: Cable;
	readonly #in: Cable;
	#replug: (() => void) | null = null;

	constructor(
		readonly name: string,
		profile: Profile,
		state: UnitState,
		private readonly clock: Clock,
		random: Random = seededRandom(1)
	) {
		const Model = MODELS[profile.id];
		if (!Model)
			throw new Problem(
				'bench.no-model',
				`There is no simulated ${profile.model}.`,
				`The bench has: ${Object.keys(MODELS).join(', ')}.`
			);
		const pulled = (forMs: number) => {
			this.unplug();
			this.#replug = this.clock.after(forMs, () => this.plug());
		};
		this.#out = new Cable('from device', clock, random, {
			deliver: (bytes) => this.#listeners.forEach((listener) => listener.bytes(bytes)),
			pulled
		});
		this.#in = new Cable('to device', clock, random, {
			deliver: (bytes) => this.unit.receive(bytes),
			pulled
		});
		this.unit = new Model(profile, state, clock, (bytes) => this.#out.transmit(bytes));
	}

	get connected(): boolean {
		return this.#out.plugged;
	}

	set faults(faults: Fault[]) {
		this.#out.faults = this.#in.faults = this.unit.faults = faults;
	}

	get faults(): Fault[] {
		return this.unit.faults;
	}

	send(bytes: Uint8Array, sent: (left: boolean) => void): void {
		this.#in.transmit(bytes, sent);
	}

	listen(listener: LinkListener): () => void {
		this.#listeners.add(listener);
		return () => this.#listeners.delete(listener);
	}

	unplug(): void {
		if (!this.connected) return;
		this.#out.plugged = this.#in.plugged = false;
		this.#listeners.forEach((listener) => listener.unplugged());
	}

	plug(): void {
		this.#replug?.();
		this.#replug = null;
		if (this.connected) return;
		this.#out.plugged = this.#in.plugged = true;
		this.#listeners.forEach((listener) => listener.plugged());
	}
}
