import { listenForSigns, seek, type Heard, type SeekProgress, type Sign, type Sought } from '../core/contact';
import type { PresentPort } from '../core/gear';
import { problemOf } from '../core/problem';
import type { Profile } from '../core/profile';
import { desk } from './desk.svelte';
import { midiDesk } from './midi-desk.svelte';
import { realClock } from './real-clock';

/** A port that could not be asked, and why. */
export interface LeftOut {
	port: PresentPort;
	why: string;
}

/** How long an ear stays open for a key or a dump that nobody asked for, in ms. */
const LISTEN_MS = 120_000;

/** A unit of the bench as a port: it is its own out and in. */
const asPort = (unit: { id: string; name: string }, direction: 'in' | 'out'): PresentPort => ({
	id: unit.id,
	name: unit.name,
	manufacturer: '',
	direction
});

/** Looks who is plugged in: asks on every port at once, then goes on listening for keys and dumps. */
class Finder {
	phase = $state<'idle' | 'asking' | 'listening' | 'over'>('idle');
	progress = $state.raw<SeekProgress | null>(null);
	/** Who answered; null before the first search. */
	heard = $state.raw<Heard[] | null>(null);
	/** The outs that were asked. */
	asked = $state.raw<PresentPort[]>([]);
	loops = $state.raw<Sought['loops']>([]);
	leftOut = $state.raw<LeftOut[]>([]);
	/** The last thing that came in unasked at each port. */
	signs = $state.raw<Sign[]>([]);
	cancelled = $state(false);
	problem = $state.raw<{ message: string; remedy: string } | null>(null);
	#stop: () => void = () => undefined;

	/** @param nameOf what a port is called where it is held, so that no two users of it meet */
	async start(
		units: readonly { id: string; name: string }[],
		profiles: readonly Profile[],
		nameOf: (port: PresentPort) => string
	): Promise<void> {
		this.stop();
		this.phase = 'asking';
		this.progress = { out: null, share: 0, answers: 0 };
		this.heard = null;
		this.asked = [];
		this.loops = [];
		this.leftOut = [];
		this.signs = [];
		this.cancelled = false;
		this.problem = null;
		try {
			if (desk.world === 'bench') await this.#onBench(units);
			else await this.#onPorts(profiles, nameOf);
		} catch (error) {
			this.phase = 'over';
			this.problem = problemOf(error);
		}
	}

	async #onBench(units: readonly { id: string; name: string }[]): Promise<void> {
		let over = false;
		this.#stop = () => {
			over = true;
		};
		const heard: Heard[] = [];
		for (const [i, unit] of units.entries()) {
			if (over) break;
			const out = asPort(unit, 'out');
			this.progress = { out, share: i / units.length, answers: heard.length };
			this.asked = [...this.asked, out];
			try {
				for (const { answers } of await desk.rollCallOnBench([unit.id]))
					heard.push(...answers.map((answer) => ({ ...answer, out, in: asPort(unit, 'in') })));
			} catch (error) {
				this.leftOut = [...this.leftOut, { port: out, why: problemOf(error).message }];
			}
		}
		this.cancelled = over;
		this.heard = heard;
		this.phase = 'over';
	}

	async #onPorts(profiles: readonly Profile[], nameOf: (port: PresentPort) => string): Promise<void> {
		const { ports, busy, close } = await midiDesk.openEverything(nameOf, 'a search for what is plugged in');
		this.leftOut = busy.map(({ port, why }) => ({ port, why }));
		this.asked = [...ports.outs];
		const sought = await new Promise<Sought>((resolve) => {
			const searching = seek(
				ports,
				realClock,
				(progress) => (this.progress = progress),
				resolve,
				Math.random
			);
			this.#stop = () => searching.cancel();
		});
		this.heard = sought.heard;
		this.loops = sought.loops;
		this.cancelled = sought.ended === 'cancelled';
		this.leftOut = [
			...this.leftOut,
			...sought.failed.map((port) => ({ port, why: 'The port took nothing that was sent.' }))
		];
		this.asked = this.asked.filter((out) => !sought.failed.includes(out));
		const deafen = listenForSigns(ports, profiles, (sign) => this.#note(sign));
		const timer = setTimeout(() => this.stop(), LISTEN_MS);
		this.phase = 'listening';
		this.#stop = () => {
			clearTimeout(timer);
			deafen();
			close();
			this.phase = 'over';
		};
	}

	/** A dump tells more than a key: it is not written over by one. */
	#note(sign: Sign): void {
		const before = this.signs.find(({ port }) => port.id === sign.port.id);
		if (before?.kind === 'dump' && sign.kind === 'played') return;
		if (before?.says === sign.says) return;
		this.signs = [...this.signs.filter(({ port }) => port.id !== sign.port.id), sign];
	}

	/** Calls a search off, or ends the listening; what was found stays. */
	stop(): void {
		const stop = this.#stop;
		this.#stop = () => undefined;
		stop();
	}
}

export const finder = new Finder();
