import { matchPorts, type PortMatch, type PresentPort, type RememberedPort } from '../core/gear';
import { Problem } from '../core/problem';
import { linesOf } from '../core/rig';
import type { AdapterVerdict } from '../core/transfer';
import { call } from './api';
import { MidiLink, type PortPair } from './midi-link';
import { holdPorts } from './port-lock';
import { realClock } from './real-clock';
import { traffic } from './traffic.svelte';

export type Permission = 'not asked' | 'asking' | 'granted' | 'refused' | 'not there';

export interface AdapterTestOf {
	key: string;
	verdict: AdapterVerdict;
	testedAt: string;
}

interface StoredPorts {
	ports: RememberedPort[];
	tests: AdapterTestOf[];
}

/** An end of a way: a socket of the catalogue, as the rig names it. */
export interface Socket {
	port: string;
	name: string;
}

/** A link that this tab holds, and how to give it back. */
export interface OpenLink {
	link: MidiLink;
	close(): void;
}

/** The computer's MIDI ports: asked for only when the musician wants to use them. */
class MidiDesk {
	permission = $state<Permission>('not asked');
	/** Why the ports cannot be used, and what to try. */
	problem = $state.raw<Problem | null>(null);
	/** Ports that are there now. */
	present = $state.raw<PresentPort[]>([]);
	remembered = $state.raw<RememberedPort[]>([]);
	tests = $state.raw<AdapterTestOf[]>([]);
	#access: MIDIAccess | null = null;
	readonly #links = new Set<MidiLink>();
	readonly #monitored = new Map<string, MIDIInput>();
	#ear: { key: string; input: PortPair['input'] } | null = null;

	/** Which present port each remembered socket is. */
	get matches(): { match: PortMatch; memory: RememberedPort }[] {
		const found = matchPorts(this.remembered, this.present);
		return this.remembered.map((memory, i) => ({ memory, match: found[i] }));
	}

	/** Asks the browser for its ports. Call it from a click: browsers show their question only then. */
	async ask(): Promise<void> {
		if (this.permission === 'granted' || this.permission === 'asking') return;
		if (!('requestMIDIAccess' in navigator)) {
			this.permission = 'not there';
			this.problem = new Problem(
				'midi.not-there',
				'This browser cannot use MIDI ports.',
				'Use a browser with Web MIDI, on this computer or over https. The bench works everywhere.'
			);
			throw this.problem;
		}
		this.permission = 'asking';
		try {
			this.#access = await navigator.requestMIDIAccess({ sysex: true });
			await this.#recall();
			this.#access.onstatechange = () => this.#look();
			this.permission = 'granted';
			this.problem = null;
			this.#look();
		} catch (error) {
			const name = error instanceof DOMException ? error.name : '';
			if (error instanceof Problem) {
				this.permission = 'not asked';
				this.problem = error;
			} else if (name === 'InvalidStateError' || name === 'NotSupportedError') {
				this.permission = 'not there';
				this.problem = new Problem(
					'midi.no-system',
					'The computer’s MIDI system does not answer.',
					'Check that its sound system runs and that no other program holds the ports; then try again.'
				);
			} else {
				this.permission = 'refused';
				this.problem = new Problem(
					'midi.refused',
					'The browser may not use MIDI ports with system exclusive messages.',
					'Allow MIDI for this page in the browser’s settings (beside the address), then ask again. Nothing is sent without being asked for.'
				);
			}
			throw this.problem;
		}
	}

	async #recall(): Promise<void> {
		const { ports, tests } = await call<StoredPorts>('GET', '/midi/ports');
		this.remembered = ports;
		this.tests = tests;
	}

	#look(): void {
		const access = this.#access;
		if (!access) return;
		const listed = (ports: Iterable<MIDIPort>, direction: PresentPort['direction']) =>
			[...ports]
				.filter(({ state }) => state === 'connected')
				.map(({ id, name, manufacturer }) => ({
					id,
					name: name ?? '',
					manufacturer: manufacturer ?? '',
					direction
				}));
		this.present = [...listed(access.inputs.values(), 'in'), ...listed(access.outputs.values(), 'out')];
		for (const link of this.#links) link.refresh();
		this.#listenAgain();
	}

	/** Remembers which of the computer's ports a socket is. */
	async remember(key: string, port: PresentPort): Promise<void> {
		this.remembered = await call<RememberedPort[]>('PUT', '/midi/ports', { ports: [{ key, ...port }] });
	}

	async forget(key: string, direction: PresentPort['direction']): Promise<void> {
		await call('POST', '/midi/ports/forget', { key, direction });
		this.remembered = this.remembered.filter((port) => port.key !== key || port.direction !== direction);
	}

	/** Keeps what a test of the adapter found. */
	async keepTest(key: string, verdict: AdapterVerdict): Promise<void> {
		const kept = await call<AdapterTestOf>('POST', '/midi/tests', { key, verdict });
		this.tests = [kept, ...this.tests.filter((test) => test.key !== key)];
	}

	testOf(key: string | null): AdapterTestOf | null {
		return this.tests.find((test) => test.key === key) ?? null;
	}

	/** The browser's port for a socket, or null while it is away. */
	#portOf(socket: string, direction: PresentPort['direction']): PresentPort | null {
		const found = this.matches.find(({ memory }) => memory.key === socket && memory.direction === direction);
		return found?.match.port ?? null;
	}

	/** Whether a socket has a port of the computer at all, present or not. */
	knows(socket: string, direction: PresentPort['direction']): boolean {
		return this.remembered.some(({ key, direction: way }) => key === socket && way === direction);
	}

	/**
	 * Opens the line between two sockets for this tab alone.
	 * @throws Problem `port.unknown`, `port.elsewhere`
	 */
	async open(out: Socket, back: Socket, doing: string, gapMs?: number): Promise<OpenLink> {
		await this.ask();
		for (const [socket, direction] of [
			[out, 'out'],
			[back, 'in']
		] as const)
			if (!this.knows(socket.port, direction))
				throw new Problem(
					'port.unknown',
					`It is not known yet which port of the computer “${socket.name}” is.`,
					'Choose it under Transfers, Ports, or call the roll there.'
				);
		const find = () => this.#pair(this.#portOf(out.port, 'out')?.id, this.#portOf(back.port, 'in')?.id);
		return this.#hold(
			find,
			out.name,
			linesOf({ out, in: back }),
			doing,
			gapMs ?? this.testOf(out.port)?.verdict.gapMs ?? 0
		);
	}

	/** Opens an out together with every in: an answer may come back anywhere. */
	async openForRoll(out: Socket): Promise<OpenLink> {
		await this.ask();
		const find = (): PortPair => {
			const inputs = [...(this.#access?.inputs.values() ?? [])].filter(({ state }) => state === 'connected');
			const output = this.#pair(this.#portOf(out.port, 'out')?.id, undefined).output;
			return { output, input: this.#earAt(inputs) };
		};
		const ears = this.present.filter(({ direction }) => direction === 'in').map(({ name }) => name);
		return this.#hold(
			find,
			out.name,
			[`${out.name} out`, ...ears.map((name) => `${name} in`)],
			'a roll call',
			0
		);
	}

	/** One ear for the same inputs: browsers tell of a change also when a port is merely opened. */
	#earAt(inputs: MIDIInput[]): PortPair['input'] {
		const key = inputs.map(({ id }) => id).join(' ');
		if (this.#ear?.key !== key) this.#ear = { key, input: inputs.length > 0 ? everyInput(inputs) : null };
		return this.#ear.input;
	}

	/** Reads again what is known of the adapters. */
	async recallTests(): Promise<void> {
		const { tests } = await call<StoredPorts>('GET', '/midi/ports');
		this.tests = tests;
	}

	/** Opens two ports of the computer by themselves, whatever they are in the catalogue. */
	async openPorts(out: PresentPort, back: PresentPort, doing: string): Promise<OpenLink> {
		await this.ask();
		return this.#hold(() => this.#pair(out.id, back.id), out.name, linesOf({ out, in: back }), doing, 0);
	}

	async #hold(
		find: () => PortPair,
		name: string,
		locks: string[],
		doing: string,
		gapMs: number
	): Promise<OpenLink> {
		const release = await holdPorts(locks, doing);
		const link = new MidiLink(name, realClock, find, gapMs);
		link.watch = (way, bytes) => traffic.note(name, way, bytes);
		this.#links.add(link);
		this.#listenAgain();
		return {
			link,
			close: () => {
				this.#links.delete(link);
				link.close();
				release();
				this.#listenAgain();
			}
		};
	}

	#pair(outId: string | undefined, inId: string | undefined): PortPair {
		const output = outId ? this.#access?.outputs.get(outId) : undefined;
		const input = inId ? this.#access?.inputs.get(inId) : undefined;
		return { output: output ?? null, input: input ?? null };
	}

	/** Listens to ports for the monitor, beside the links. */
	monitor(ids: readonly string[]): void {
		for (const input of this.#monitored.values()) if (this.#isFree(input)) input.onmidimessage = null;
		this.#monitored.clear();
		for (const id of ids) {
			const input = this.#access?.inputs.get(id);
			if (input) this.#monitored.set(id, input);
		}
		this.#listenAgain();
	}

	#isFree = (input: MIDIInput) => ![...this.#links].some((link) => link.uses(input));

	/** Links hear through their own ear; ports without a link are heard for the monitor alone. */
	#listenAgain(): void {
		for (const input of this.#monitored.values()) {
			if (!this.#isFree(input)) continue;
			input.onmidimessage = ({ data }) =>
				data && traffic.note(input.name ?? '', 'received', Uint8Array.from(data));
		}
	}
}

/** All inputs as one, for an ear that waits at every door. */
function everyInput(inputs: MIDIInput[]): NonNullable<PortPair['input']> {
	return {
		get state() {
			return inputs.some(({ state }) => state === 'connected') ? 'connected' : 'disconnected';
		},
		get onmidimessage() {
			return inputs[0].onmidimessage;
		},
		set onmidimessage(ear) {
			for (const input of inputs) input.onmidimessage = ear;
		}
	};
}

export const midiDesk = new MidiDesk();
