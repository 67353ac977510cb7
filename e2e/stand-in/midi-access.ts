// Runs in the page: a stand-in for the browser's MIDI access, wired to bench devices. Bundled by `inject.ts`.
import {
	BenchLine,
	factoryState,
	faultSchema,
	seededRandom,
	type SimulatedDevice
} from '../../src/lib/core/bench';
import { parseProfile } from '../../src/lib/core/profile';
import { VirtualClock } from '../../src/lib/core/transfer';

/** A port pair of the computer and the devices on its wire. */
export interface StandInPort {
	name: string;
	devices: { profile: unknown; settings: Record<string, number>; seed: number }[];
	/** In front of its ids: another interface than the one that was there before has others. */
	unit?: string;
	loopback?: boolean;
	/** The in (its place in the list) that the devices’ answers come in at, where it is not the one beside their out. */
	back?: number;
	/** The out takes nothing: sending to it fails. */
	dead?: boolean;
}

type Handler = ((event: { data: Uint8Array; timeStamp: number }) => void) | null;

class Port extends EventTarget {
	state: 'connected' | 'disconnected' = 'connected';
	connection = 'open';
	manufacturer = 'Ferrow';
	version = '1';
	constructor(
		readonly type: 'input' | 'output',
		public id: string,
		public name: string
	) {
		super();
	}
	open = () => Promise.resolve(this);
	close = () => Promise.resolve(this);
}

class Input extends Port {
	onmidimessage: Handler = null;
}

class Output extends Port {
	constructor(
		id: string,
		name: string,
		private readonly carry: (bytes: Uint8Array, at: number) => void
	) {
		super('output', id, name);
	}
	/** As browsers do: whole messages only. */
	send(data: Uint8Array, timestamp = 0): void {
		const bytes = Uint8Array.from(data);
		if (bytes[0] === 0xf0 && bytes[bytes.length - 1] !== 0xf7) throw new TypeError('Not a whole message.');
		if (this.state !== 'connected') throw new DOMException('The port is not there.', 'InvalidStateError');
		this.carry(bytes, timestamp);
	}
}

interface Line {
	input: Input;
	output: Output;
	bench: BenchLine;
	units: SimulatedDevice[];
}

function install({ ports, refuse, speed }: { ports: StandInPort[]; refuse: boolean; speed: number }): void {
	const clock = new VirtualClock();
	let last = performance.now();
	setInterval(() => {
		const now = performance.now();
		clock.runUntil(clock.now() + (now - last) * speed);
		last = now;
	}, 4);
	const inputs = ports.map(({ name, unit = '' }, i) => new Input('input', `${unit}in-${i}`, name));
	const lines = ports.map(({ name, devices, loopback, back, dead, unit = '' }, i): Line => {
		const bench = new BenchLine(name, clock, seededRandom(i + 1));
		bench.loopback = loopback ?? false;
		const units = devices.map(({ profile: json, settings, seed }) => {
			const profile = parseProfile(json);
			const state = factoryState(profile, seededRandom(seed));
			Object.assign(state.settings, settings);
			return bench.attach(profile, state);
		});
		const input = inputs[i];
		const ear = inputs[back ?? i];
		const output = new Output(`${unit}out-${i}`, name, (bytes, at) => {
			if (dead) throw new DOMException('The port takes nothing.', 'InvalidStateError');
			setTimeout(() => bench.send(bytes, () => undefined), Math.max(0, at - performance.now()));
		});
		bench.listen({
			bytes: (chunk) => ear.onmidimessage?.({ data: chunk, timeStamp: performance.now() }),
			unplugged: () => undefined,
			plugged: () => undefined
		});
		return { input, output, bench, units };
	});
	const access = {
		inputs: new Map(lines.map(({ input }) => [input.id, input])),
		outputs: new Map(lines.map(({ output }) => [output.id, output])),
		onstatechange: null as (() => void) | null,
		sysexEnabled: true
	};
	// As browsers do: what was allowed once is remembered for the page’s address.
	const GRANTED = 'stand-in.granted';
	Object.assign(navigator, {
		requestMIDIAccess: () => {
			if (refuse) return Promise.reject(new DOMException('Refused.', 'NotAllowedError'));
			localStorage.setItem(GRANTED, '1');
			return Promise.resolve(access);
		}
	});
	navigator.permissions.query = () =>
		Promise.resolve({
			state: refuse ? 'denied' : localStorage.getItem(GRANTED) ? 'granted' : 'prompt'
		} as PermissionStatus);
	let plugs = 0;
	Object.assign(window, {
		standIn: {
			/** Pulls the interface out: all its ports go. */
			unplug(): void {
				for (const { input, output, bench } of lines) {
					input.state = output.state = 'disconnected';
					bench.unplug();
				}
				access.inputs.clear();
				access.outputs.clear();
				access.onstatechange?.();
			},
			/** Puts it back, as some systems do: under new ids and with another number in front. */
			plug(): void {
				plugs++;
				for (const [i, { input, output, bench }] of lines.entries()) {
					const name = `${plugs + 1}- ${ports[i].name}`;
					Object.assign(input, { id: `in-${i}-${plugs}`, name, state: 'connected' });
					Object.assign(output, { id: `out-${i}-${plugs}`, name, state: 'connected' });
					bench.plug();
					access.inputs.set(input.id, input);
					access.outputs.set(output.id, output);
				}
				access.onstatechange?.();
			},
			fault(port: number, faults: unknown[]): void {
				lines[port].bench.faults = faults.map((fault) => faultSchema.parse(fault));
			},
			/** A key is pressed on something at an in. */
			press(port: number): void {
				lines[port].input.onmidimessage?.({
					data: Uint8Array.of(0x92, 60, 100),
					timeStamp: performance.now()
				});
			},
			/** A controller at an in says something, a message every few milliseconds. */
			async say(port: number, messages: number[][]): Promise<void> {
				for (const message of messages) {
					lines[port].input.onmidimessage?.({
						data: Uint8Array.from(message),
						timeStamp: performance.now()
					});
					await new Promise((next) => setTimeout(next, 5));
				}
			},
			/** A device’s panel is told to send its memory. */
			dump(port: number, device: number): void {
				lines[port].units[device].dump();
			},
			/** Names that a device holds, for the test to compare with what the app says. */
			records: (port: number, device: number, area: string) =>
				lines[port].units[device].state.memory[area].map((bytes) => [...bytes].join(' ')),
			/** Somebody renames a sound at a device’s panel. */
			rename: (port: number, device: number, area: string, index: number, name: string) =>
				lines[port].units[device].rename(area, index, name),
			/** Somebody chooses another slot at a device’s panel. */
			turn: (port: number, device: number, index: number) => lines[port].units[device].turnTo(index),
			/** What a device’s panel shows. */
			panel: (port: number, device: number) => lines[port].units[device].panel(),
			/** A device is switched off and on; `held`: with the button for update mode held. */
			switchOn: (port: number, device: number, held: boolean) => lines[port].units[device].powerCycle(held),
			/** Floods a port with notes, so many a second. */
			flood(port: number, perSecond: number, seconds: number): Promise<number> {
				return new Promise((resolve) => {
					let sent = 0;
					const began = performance.now();
					const timer = setInterval(() => {
						const due = Math.min(perSecond * seconds, ((performance.now() - began) / 1000) * perSecond);
						for (; sent < due; sent++)
							lines[port].input.onmidimessage?.({
								data: Uint8Array.of(0x90, sent % 128, 64),
								timeStamp: performance.now()
							});
						if (sent >= perSecond * seconds) {
							clearInterval(timer);
							resolve(sent);
						}
					}, 5);
				});
			}
		}
	});
}

install((window as unknown as { standInOrder: Parameters<typeof install>[0] }).standInOrder);
