import {
	BROADCAST,
	CI,
	ciMessage,
	discoveryBody,
	goodbye,
	OWN,
	pickMuid,
	readCiMessage,
	readDiscovery,
	withPeers,
	type Peer
} from '../ci';
import { sameBytes, wireMs } from '../midi';
import type { PresentPort } from '../gear';
import { ALL_DEVICES, Framer, identityRequest, modelKey, readIdentityReply, type Identity } from '../sysex';
import type { Clock } from '../transfer';

/** The computer's ports, as a search uses them: it needs no catalogue and no cable. */
export interface SeekPorts {
	readonly outs: readonly PresentPort[];
	/** Sends a whole message. @returns false where the port does not take it */
	send(out: PresentPort, bytes: Uint8Array): boolean;
	/** Tells of the bytes that come in, with the port, until the answer is called. */
	hear(heard: (port: PresentPort, chunk: Uint8Array) => void): () => void;
}

/** One that answered: where it was asked, and where its answer came in. */
export interface Heard {
	out: PresentPort;
	in: PresentPort;
	identity: Identity;
	/** How many answer to this device ID as this model at this out. */
	units: number;
	/** Whether it can be asked to describe itself (MIDI-CI property exchange). */
	describes: boolean;
}

export interface Sought {
	heard: Heard[];
	/** Outs that come straight back at an in. */
	loops: { out: PresentPort; in: PresentPort }[];
	/** Outs that could not be sent to. */
	failed: PresentPort[];
	ended: 'done' | 'cancelled';
}

export interface SeekProgress {
	/** The out that is asked by itself, or null while all are asked at once. */
	out: PresentPort | null;
	/** 0–1 */
	share: number;
	/** Who has answered so far, wherever. */
	answers: number;
}

/** Rest after a request, so that slow inputs do not run over. */
const GAP_MS = 4;
/** Silence after which nobody else answers, to all requests and to one. */
const QUIET_MS = 450;
const PLACE_QUIET_MS = 280;
/** Even a stream of answers ends a round. */
const ROUND_MS = 4000;
const EVERY_ID = [ALL_DEVICES, ...Array.from({ length: ALL_DEVICES }, (_, id) => id)];

const identityKey = (identity: Identity) => `${identity.deviceId} ${modelKey(identity)}`;

interface Answer {
	port: PresentPort;
	identity: Identity;
	times: number;
}

/**
 * Asks on every out at once who is there, by every device ID and by a discovery (MIDI-CI), and listens on every in (MIDI 1.0,
 * “Inquiry message”). Who
 * answered is then asked on one out after the other, so that it is known which of them reaches it. A port that cannot be
 * sent to costs only itself. Takes about a second and a half, and a third of a second for each out.
 */
export function seek(
	ports: SeekPorts,
	clock: Clock,
	tell: (progress: SeekProgress) => void,
	done: (sought: Sought) => void,
	random: () => number
): { cancel(): void } {
	const sought: Sought = { heard: [], loops: [], failed: [], ended: 'done' };
	const framers = new Map<string, Framer>();
	let answers = new Map<string, Answer>();
	let lastAnswer = -Infinity;
	let asking: PresentPort | null = null;
	let over = false;
	let echoed = false;
	const everybody = new Map<string, Identity>();
	const me = pickMuid(random);
	const discovery = ciMessage(CI.discovery, me, BROADCAST, discoveryBody(OWN));
	/** Who answered the discovery of this round, and where; and all who ever did. */
	let peers: { port: PresentPort; peer: Peer }[] = [];
	const discovered = new Set<number>();

	function note(port: PresentPort, bytes: Uint8Array): void {
		const identity = readIdentityReply(bytes);
		if (identity) {
			const key = `${port.id}\n${identityKey(identity)}`;
			const before = answers.get(key);
			answers.set(key, { port, identity, times: (before?.times ?? 0) + 1 });
			everybody.set(key, identity);
			lastAnswer = clock.now();
			return;
		}
		const message = readCiMessage(bytes);
		const says = message?.kind === CI.discoveryReply && message.to === me ? readDiscovery(message) : null;
		if (says) {
			peers.push({ port, peer: { muid: message!.from, version: message!.version, says } });
			discovered.add(message!.from);
			lastAnswer = clock.now();
		} else if (isRequest(bytes)) {
			echoed = true;
			// Echoes of the round before must not be taken for those of this one.
			lastAnswer = clock.now();
			const out = asking;
			if (!out) return;
			if (!sought.loops.some((loop) => loop.out === out && loop.in === port))
				sought.loops.push({ out, in: port });
		}
	}
	const deafen = ports.hear((port, chunk) => {
		if (over) return;
		const framer = framers.get(port.id) ?? new Framer();
		framers.set(port.id, framer);
		for (const event of framer.push(chunk)) if (event.kind === 'sysex') note(port, event.bytes);
	});
	function end(how: Sought['ended']): void {
		if (over) return;
		over = true;
		deafen();
		sought.ended = how;
		done(sought);
	}

	/** Sends to outs side by side, each at its own pace, and goes on when all have fallen silent. */
	function ask(
		outs: readonly PresentPort[],
		messages: readonly Uint8Array[],
		quietMs: number,
		next: () => void
	): void {
		let open = outs.length;
		const rest = (until: number): void => {
			const now = clock.now();
			const due = Math.min(until, Math.max(now, lastAnswer + quietMs));
			if (due <= now) next();
			else clock.after(due - now, () => !over && rest(until));
		};
		const closed = () => {
			if (--open > 0) return;
			clock.after(quietMs, () => !over && rest(clock.now() + ROUND_MS));
		};
		for (const out of outs) {
			const step = (at: number): void => {
				if (over) return;
				if (at === messages.length) return closed();
				const bytes = messages[at];
				if (!ports.send(out, bytes)) {
					if (!sought.failed.includes(out)) sought.failed.push(out);
					return closed();
				}
				clock.after(wireMs(bytes.length) + GAP_MS, () => step(at + 1));
			};
			step(0);
		}
		if (outs.length === 0) next();
	}

	const usable = () => ports.outs.filter((out) => !sought.failed.includes(out));
	const show = (out: PresentPort | null, share: number) =>
		tell({ out, share, answers: Math.max(everybody.size, discovered.size) });

	/** Which of these is reached by an out, and how many units answer as one. */
	function place(list: readonly PresentPort[], at: number): void {
		const out = list[at];
		if (!out) return leave();
		asking = out;
		answers = new Map();
		peers = [];
		show(out, 0.35 + (0.65 * at) / list.length);
		const met = [...new Set([...everybody.values()].map(({ deviceId }) => deviceId))];
		const ids = met.length > 0 ? met : [ALL_DEVICES];
		ask([out], [...ids.map(identityRequest), discovery], PLACE_QUIET_MS, () => {
			const found = [...answers.values()];
			alone(
				out,
				found,
				[...new Set(found.filter(({ times }) => times > 1).map(({ identity }) => identity.deviceId))],
				() => {
					const answered = found.map(({ port, identity }) => ({
						in: port,
						identity,
						// Two that answer to one ID at one out are in each other's way, wherever their answers come in.
						units: found
							.filter((other) => identityKey(other.identity) === identityKey(identity))
							.reduce((sum, other) => sum + other.times, 0)
					}));
					const ins = new Set([...answered.map((one) => one.in), ...peers.map((one) => one.port)]);
					for (const back of ins)
						sought.heard.push(
							...withPeers(
								answered.filter((one) => one.in === back),
								peers.filter(({ port }) => port === back).map(({ peer }) => peer)
							).map((one) => ({ ...one, out, in: back }))
						);
					place(list, at + 1);
				}
			);
		});
	}

	/** Those that answered more than once are asked alone: some answer to every ID, others are two. */
	function alone(out: PresentPort, found: Answer[], ids: readonly number[], next: () => void): void {
		const [id, ...rest] = ids;
		if (id === undefined) return next();
		answers = new Map();
		ask([out], [identityRequest(id)], PLACE_QUIET_MS, () => {
			for (const answer of found)
				if (answer.identity.deviceId === id)
					answer.times = answers.get(`${answer.port.id}\n${identityKey(answer.identity)}`)?.times ?? 1;
			alone(out, found, rest, next);
		});
	}

	/** Whoever speaks MIDI-CI need not keep our number. */
	function leave(): void {
		if (discovered.size > 0) for (const out of usable()) ports.send(out, goodbye(me));
		end('done');
	}

	show(null, 0.05);
	ask(ports.outs, [...EVERY_ID.map(identityRequest), discovery], QUIET_MS, () => {
		place(everybody.size > 0 || discovered.size > 0 || echoed ? usable() : [], 0);
	});
	return { cancel: () => end('cancelled') };
}

/** Whether it is a question of ours, come back. */
const isRequest = (bytes: Uint8Array): boolean =>
	bytes.length === 6 && sameBytes(bytes, identityRequest(bytes[2]));
