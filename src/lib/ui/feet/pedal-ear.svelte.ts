import { recordingOf } from '../../core/control/stream';
import { calibrate, type Calibrating, type Heard } from '../../core/pedal';
import { traffic } from '../../hardware/traffic.svelte';

/** A controller that speaks while a pedal is listened to. */
export interface HeardController {
	port: string;
	controller: number;
	/** 1–16. */
	channel: number;
	heard: Heard[];
}

/** How often what was heard is looked at. */
const LOOK_MS = 200;
/** Of what is heard longer ago nothing is kept. */
const KEEP_MS = 60_000;

/** Listens for the controller that moves furthest, and calibrates it as it goes. */
export class PedalEar {
	listening = $state(false);
	/** What is shown comes from a file. */
	recorded = $state(false);
	/** The controller that is taken for the pedal. */
	taken = $state.raw<Omit<HeardController, 'heard'> | null>(null);
	/** What it said last. */
	value = $state<number | null>(null);
	told = $state.raw<Calibrating | null>(null);
	/** Everything that it said, and until when it was listened to. */
	stream = $state.raw<{ heard: readonly Heard[]; untilMs: number } | null>(null);
	#all: HeardController[] = [];
	#end: (() => void) | null = null;

	begin(): void {
		this.done();
		this.listening = true;
		const unwatch = traffic.watch(({ port, way, bytes, atMs }) => {
			if (way === 'received') this.#hear(port, bytes, atMs);
		});
		const timer = setInterval(() => this.#look(performance.now()), LOOK_MS);
		this.#end = () => {
			unwatch();
			clearInterval(timer);
		};
	}

	/** Takes a recording for what was heard. @throws Problem `smf.not-a-midi-file` */
	read(name: string, bytes: Uint8Array): void {
		this.done();
		const { heard, untilMs } = recordingOf(bytes);
		for (const each of heard) this.#hear(name, each.bytes, each.atMs);
		this.recorded = true;
		this.#look(untilMs);
	}

	#hear(port: string, bytes: Uint8Array, atMs: number): void {
		if (bytes.length !== 3 || bytes[0] >> 4 !== 0xb) return;
		const [channel, controller] = [(bytes[0] & 15) + 1, bytes[1]];
		let one = this.#all.find(
			(each) => each.port === port && each.channel === channel && each.controller === controller
		);
		if (!one) this.#all.push((one = { port, controller, channel, heard: [] }));
		one.heard.push({ atMs, value: bytes[2] });
		while (one.heard[0].atMs < atMs - KEEP_MS) one.heard.shift();
	}

	#look(nowMs: number): void {
		const travel = ({ heard }: HeardController) => {
			const values = heard.map(({ value }) => value);
			return Math.max(...values) - Math.min(...values);
		};
		const [best] = this.#all.toSorted((a, b) => travel(b) - travel(a));
		if (!best) {
			this.told = calibrate([], nowMs);
			return;
		}
		const { heard, ...taken } = best;
		this.taken = taken;
		this.value = heard.at(-1)!.value;
		this.told = calibrate(heard, nowMs);
		this.stream = { heard: [...heard], untilMs: nowMs };
	}

	/** Forgets what was heard: it is kept, or something else is listened to. */
	done(): void {
		this.stop();
		this.recorded = false;
		this.#all = [];
		[this.taken, this.value, this.told, this.stream] = [null, null, null, null];
	}

	stop(): void {
		this.#end?.();
		this.#end = null;
		this.listening = false;
	}
}
