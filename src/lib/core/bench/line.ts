import { Problem } from '../problem';
import type { Profile } from '../profile';
import type { Clock, Link, LinkListener } from '../transfer';
import { Cable } from './cable';
import type { Fault } from './faults';
import { MODELS } from './models';
import { seededRandom, type Random } from './random';
import { FileKeeper } from './file-keeper';
import { Sampler } from './sampler';
import type { SimulatedDevice, UnitState } from './unit';

const ACTIVE_SENSING = 0xfe;
const TIMING_CLOCK = 0xf8;
/** Devices send active sensing at least every 300 ms. */
const SENSING_MS = 270;

/**
 * A port of the bench with its two cables and any number of devices on them: what is sent reaches all, and what they
 * send queues up on the way back, message after message, as through a merge box.
 */
export class BenchLine implements Link {
	readonly units: SimulatedDevice[] = [];
	/** What is on the line besides devices of the catalogue. */
	readonly others: { receive(bytes: Uint8Array): void }[] = [];
	readonly #listeners = new Set<LinkListener>();
	readonly #out: Cable;
	readonly #in: Cable;
	#faults: Fault[] = [];
	#replug: (() => void) | null = null;
	/** How to end the real-time bytes that are sent over and over. */
	readonly #beats: (() => void)[] = [];
	/** What the far end of a loopback cable hears comes straight back. */
	loopback = false;

	constructor(
		readonly name: string,
		protected readonly clock: Clock,
		random: Random = seededRandom(1)
	) {
		const pulled = (forMs: number) => {
			this.unplug();
			this.#replug = this.clock.after(forMs, () => this.plug());
		};
		const starved = () => {
			for (const unit of this.units) unit.powerCycle();
		};
		this.#out = new Cable('from device', clock, random, {
			starved,
			deliver: (bytes) => this.#listeners.forEach((listener) => listener.bytes(bytes)),
			pulled
		});
		this.#in = new Cable('to device', clock, random, {
			starved,
			deliver: (bytes) => {
				if (this.loopback) this.#out.transmit(bytes);
				for (const unit of [...this.units, ...this.others]) unit.receive(bytes);
			},
			pulled
		});
	}

	/** Puts a simulated device on the line. @throws Problem `bench.no-model` */
	attach(profile: Profile, state: UnitState): SimulatedDevice {
		const Model = MODELS[profile.id];
		if (!Model)
			throw new Problem(
				'bench.no-model',
				`There is no simulated ${profile.model}.`,
				`The bench has: ${Object.keys(MODELS).join(', ')}.`
			);
		const unit = new Model(profile, state, this.clock, (bytes) => this.#out.transmit(bytes));
		unit.faults = this.#faults;
		this.units.push(unit);
		return unit;
	}

	/** Puts a simulated sampler on the line. */
	attachSampler(deviceId: number): Sampler {
		const sampler = new Sampler(deviceId, (bytes) => this.#out.transmit(bytes));
		this.others.push(sampler);
		return sampler;
	}

	/** Puts a simulated recorder that keeps files on the line. */
	attachFileKeeper(deviceId: number): FileKeeper {
		const keeper = new FileKeeper(deviceId, (bytes) => this.#out.transmit(bytes));
		this.others.push(keeper);
		return keeper;
	}

	get connected(): boolean {
		return this.#out.plugged;
	}

	set faults(faults: Fault[]) {
		this.#faults = this.#out.faults = this.#in.faults = faults;
		for (const unit of this.units) unit.faults = faults;
		for (const stop of this.#beats.splice(0)) stop();
		for (const fault of faults) {
			if (fault.kind === 'active sensing') this.#beat(ACTIVE_SENSING, SENSING_MS);
			if (fault.kind === 'clock') this.#beat(TIMING_CLOCK, 60_000 / fault.bpm / 24);
		}
	}

	/** Sends a real-time byte again and again, between whatever else is on the line. */
	#beat(byte: number, everyMs: number): void {
		let stop = () => undefined as void;
		const next = () => {
			this.#out.slip(byte);
			stop = this.clock.after(everyMs, next);
		};
		stop = this.clock.after(everyMs, next);
		this.#beats.push(() => stop());
	}

	get faults(): Fault[] {
		return this.#faults;
	}

	send(bytes: Uint8Array, sent: (left: boolean) => void): void {
		this.#in.transmit(bytes, sent);
	}

	/** Puts a message on the way back, as a device of the line would. */
	speak(bytes: Uint8Array): void {
		this.#out.transmit(bytes);
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
