import { untrack } from 'svelte';
import { matchPorts, type PortMatch, type PresentPort, type RememberedPort } from '../core/gear';
import { Problem } from '../core/problem';
import { linesOf } from '../core/rig';
import type { AdapterVerdict } from '../core/transfer';
import type { AllPorts } from './all-ports';
import { call } from './api';
import type { MidiLink, PortPair } from './midi-link';
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

/** The ear of a line that nothing comes back on. */
const DEAF: NonNullable<PortPair['input']> = { state: 'connected', onmidimessage: null };

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
	#asking: Promise<void> | null = null;
	readonly #links = new Set<MidiLink>();
	/** How many want every in to be heard, and the ins that are. */
	#hearers = 0;
	#heard: MIDIInput[] = [];

	/** Which present port each remembered socket is. */
	get matches(): { match: PortMatch; memory: RememberedPort }[] {
		const found = matchPorts(this.remembered, this.present);
		return this.remembered.map((memory, i) => ({ memory, match: found[i] }));
	}

	/** Asks the browser for its ports. Call it from a click: browsers show their question only then. */
	ask(): Promise<void> {
		if (this.permission === 'granted') return Promise.resolve();
		// Whoever comes while the browser is being asked waits for its answer, too.
		return (this.#asking ??= this.#askBrowser().finally(() => (this.#asking = null)));
	}

	async #askBrowser(): Promise<void> {
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
			await this.recall();
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

	/**
	 * Opens the ports again where the browser says that they were allowed before: a reload asks nobody. Where it does not
	 * say, nothing happens.
	 */
	async wake(): Promise<void> {
		if (this.permission !== 'not asked' || !('permissions' in navigator)) return;
		try {
			const { state } = await navigator.permissions.query({
				name: 'midi',
				sysex: true
			} as PermissionDescriptor & {
				sysex: boolean;
			});
			if (state === 'granted') await this.ask();
		} catch {
			// A browser that does not tell, or ports that do not open now: `ask` has noted why, and the page shows the button.
		}
	}

	/** Reads again which port is which, and how the adapters did. */
	async recall(): Promise<void> {
		const { ports, tests } = await call<StoredPorts>('GET', '/midi/ports');
		this.remembered = ports;
		this.tests = tests;
	}

	/** The same, where this tab uses the ports at all. */
	async recallIfOpen(): Promise<void> {
		if (this.permission === 'granted') await this.recall();
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

	/** The ports of sockets as they are now; null while this tab may not use them. */
	get sockets(): { key: string; direction: PresentPort['direction']; port: PresentPort | null }[] | null {
		if (this.permission !== 'granted') return null;
		return this.matches.map(({ memory, match }) => ({
			key: memory.key,
			direction: memory.direction,
			port: match.port
		}));
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
	 * Opens the line between two sockets for this tab alone; without a way back it can only be sent to.
	 * @throws Problem `port.unknown`, `port.elsewhere`
	 */
	async open(out: Socket, back: Socket | null, doing: string, gapMs?: number): Promise<OpenLink> {
		await this.ask();
		for (const [socket, direction] of [
			[out, 'out'],
			[back, 'in']
		] as const)
			if (socket && !this.knows(socket.port, direction))
				throw new Problem(
					'port.unknown',
					`It is not known yet which port of the computer “${socket.name}” is.`,
					'Find it: what answers is noted with its ports.'
				);
		const find = (): PortPair => {
			const pair = this.#pair(
				this.#portOf(out.port, 'out')?.id,
				back ? this.#portOf(back.port, 'in')?.id : undefined
			);
			return back ? pair : { ...pair, input: DEAF };
		};
		const gap = gapMs ?? this.testOf(out.port)?.verdict.gapMs ?? 0;
		return this.#hold(find, out.name, linesOf({ out, in: back }), doing, gap);
	}

	/** Opens every port that nobody holds, for a search that needs no catalogue. @throws Problem where the ports may not be used */
	async openEverything(nameOf: (port: PresentPort) => string, doing: string): Promise<AllPorts> {
		await this.ask();
		const { openAllPorts } = await import('./all-ports');
		const all = await openAllPorts(this.#access!, this.present, nameOf, doing, this.#isFree);
		return {
			...all,
			close: () => {
				all.close();
				this.#listenAgain();
			}
		};
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
		// What speaks over ports is fetched when something is to be said.
		const [{ MidiLink }, { holdPorts }, { realClock }] = await Promise.all([
			import('./midi-link'),
			import('./port-lock'),
			import('./real-clock')
		]);
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

	/**
	 * Hears every in of the computer for this tab, beside the links, as they come and go. Several may want it at once. Where
	 * the ports cannot be used, `problem` says why.
	 * @returns what ends it
	 */
	hearAll(): () => void {
		this.#hearers++;
		this.#listenAgain();
		// Called from effects, which must not wait for what is asked here.
		untrack(() => this.ask()).catch(() => undefined);
		let ended = false;
		return () => {
			if (ended) return;
			ended = true;
			this.#hearers--;
			this.#listenAgain();
		};
	}

	#isFree = (input: MIDIInput) => ![...this.#links].some((link) => link.uses(input));

	/** Links hear through their own ear; ports without a link are heard for this tab alone. */
	#listenAgain(): void {
		const ins = this.#hearers > 0 ? [...(this.#access?.inputs.values() ?? [])] : [];
		for (const input of this.#heard)
			if (!ins.includes(input) && this.#isFree(input)) input.onmidimessage = null;
		this.#heard = ins;
		for (const input of ins) {
			if (!this.#isFree(input)) continue;
			input.onmidimessage = ({ data }) =>
				data && traffic.note(input.name ?? '', 'received', Uint8Array.from(data));
		}
	}
}

export const midiDesk = new MidiDesk();
