import { SYSEX_END, SYSEX_START, Statements, isRealTime, spelledOut } from '../midi';
import { Framer, type FrameEvent } from '../sysex';
import type { Problem } from '../problem';
import type { Clock } from './clock';
import type { Link } from './link';

/** What a conversation asks of the world. */
export type Step =
	| { do: 'send'; bytes: Uint8Array }
	/** Waits for the next message; `idleMs` without one byte of a system exclusive message ends it. */
	| { do: 'wait'; idleMs: number }
	| { do: 'sleep'; ms: number }
	/** From here on channel messages are heard, too: a whole statement each. */
	| { do: 'attend' }
	/** Waits until the port is there, `patienceMs` at most. */
	| { do: 'await port'; patienceMs: number }
	/** Has something stored, and goes on only when it is safe. */
	| { do: 'keep'; what: unknown };

/** What the world answers. */
export type Heard =
	| { heard: 'done' }
	| { heard: 'message'; bytes: Uint8Array }
	| { heard: 'broken'; bytes: Uint8Array; reason: string }
	| { heard: 'silence' }
	| { heard: 'unplugged' }
	| { heard: 'cancelled' }
	| { heard: 'not kept'; problem: Problem };

/** A conversation is a generator: pure, free of time, repeatable. */
export type Conversation<R> = Generator<Step, R, Heard>;

/** One line of the log. `offset` counts bytes received so far. */
export interface TraceLine {
	atMs: number;
	way: 'sent' | 'received' | 'note';
	bytes: Uint8Array;
	says?: string;
}

export interface World {
	link: Link;
	clock: Clock;
	trace(line: TraceLine): void;
	/** Told whenever bytes arrive or have left: totals since the start. */
	traffic?(received: number, sent: number): void;
	/** Stores `what`; calls back with nothing, or with the problem. */
	keep(what: unknown, kept: (problem?: Problem) => void): void;
}

export interface Running {
	/** Ends the conversation at its next step; what has been received stays. */
	cancel(): void;
}

/** Carries a conversation out over a link. `done` is called once, with what it returned. */
export function converse<R>(conversation: Conversation<R>, world: World, done: (result: R) => void): Running {
	const { link, clock } = world;
	const framer = new Framer();
	const mailbox: Heard[] = [];
	let step: Step | null = null;
	let takeBack: (() => void) | null = null;
	let lastByteAt = clock.now();
	let received = 0;
	let sent = 0;
	let cancelled = false;
	let finished = false;
	/** Clock and the like since the last line of the log: hours of it, where somebody waits for a dump. */
	let realTime: { atMs: number; bytes: number[] } | null = null;
	/** Whether a system exclusive message is under way. */
	let exclusive = false;
	/** Puts channel messages together, where they are attended to. */
	let statements: Statements | null = null;
	/** Guards against answers that arrive for a step that is over. */
	let turn = 0;

	const log = (way: TraceLine['way'], bytes: Uint8Array, says?: string) => {
		flushRealTime();
		world.trace({ atMs: clock.now(), way, bytes, says });
	};
	const flushRealTime = () => {
		if (!realTime) return;
		const { atMs, bytes } = realTime;
		realTime = null;
		world.trace({ atMs, way: 'received', bytes: Uint8Array.from(bytes) });
	};

	const stopListening = link.listen({
		bytes(chunk) {
			const own = exclusiveBytes(chunk);
			if (own > 0) lastByteAt = clock.now();
			received += own;
			world.traffic?.(received, sent);
			for (const event of framer.push(chunk)) hear(event);
			deliver();
		},
		unplugged() {
			for (const event of framer.end()) hear(event);
			log('note', new Uint8Array(), 'The port is gone: unplugged or switched off.');
			mailbox.push({ heard: 'unplugged' });
			deliver();
		},
		plugged() {
			log('note', new Uint8Array(), 'The port is back.');
			forgetUnplugged();
			if (step?.do === 'await port') resume({ heard: 'done' });
		}
	});

	function hear(event: FrameEvent): void {
		if (event.kind === 'realtime') {
			realTime ??= { atMs: clock.now(), bytes: [] };
			realTime.bytes.push(event.bytes[0]);
			return;
		}
		if (event.kind === 'broken') {
			log('received', event.bytes, `Broken message: ${event.reason}.`);
			mailbox.push({ heard: 'broken', bytes: event.bytes, reason: event.reason });
			return;
		}
		log('received', event.bytes);
		if (event.kind === 'sysex') mailbox.push({ heard: 'message', bytes: event.bytes });
		const statement = event.kind === 'message' ? statements?.push(event.bytes) : null;
		if (!statement) return;
		lastByteAt = clock.now();
		received += event.bytes.length;
		mailbox.push({ heard: 'message', bytes: statement });
	}

	/** Bytes of system exclusive messages: clock, active sensing and notes answer nothing and do not break a silence. */
	function exclusiveBytes(chunk: Uint8Array): number {
		let own = 0;
		for (const byte of chunk) {
			if (isRealTime(byte)) continue;
			if (byte === SYSEX_START) exclusive = true;
			else if (byte >= 0x80 && byte !== SYSEX_END) exclusive = false;
			if (exclusive) own++;
			if (byte === SYSEX_END) exclusive = false;
		}
		return own;
	}

	/** Word of a cable that is back in must not end what begins after it. */
	function forgetUnplugged(): void {
		for (let i = mailbox.length - 1; i >= 0; i--) if (mailbox[i].heard === 'unplugged') mailbox.splice(i, 1);
	}

	/** Hands a waiting conversation the next thing heard. */
	function deliver(): void {
		if (finished || step?.do !== 'wait') return;
		const next = mailbox.shift();
		if (next) resume(next);
	}

	function resume(answer: Heard): void {
		let heard: Heard | null = answer;
		while (heard && !finished) {
			turn++;
			takeBack?.();
			takeBack = null;
			const result = conversation.next(cancelled ? { heard: 'cancelled' } : heard);
			if (result.done) {
				finished = true;
				step = null;
				flushRealTime();
				stopListening();
				done(result.value);
				return;
			}
			step = result.value;
			heard = begin(step);
		}
	}

	/** Starts a step; an answer that is there already comes back at once. */
	function begin(current: Step): Heard | null {
		const mine = turn;
		const later = (heard: Heard) => {
			if (mine === turn) resume(heard);
		};
		switch (current.do) {
			case 'attend':
				statements ??= new Statements();
				return { heard: 'done' };
			case 'send': {
				if (!link.connected) return { heard: 'unplugged' };
				const bytes = spelledOut(current.bytes);
				log('sent', bytes);
				link.send(bytes, (left) => {
					if (left) sent += bytes.length;
					world.traffic?.(received, sent);
					later(left ? { heard: 'done' } : { heard: 'unplugged' });
				});
				return null;
			}
			case 'sleep':
				takeBack = clock.after(current.ms, () => later({ heard: 'done' }));
				return null;
			case 'await port':
				forgetUnplugged();
				if (link.connected) return { heard: 'done' };
				takeBack = clock.after(current.patienceMs, () => later({ heard: 'silence' }));
				return null;
			case 'keep':
				world.keep(current.what, (problem) =>
					later(problem ? { heard: 'not kept', problem } : { heard: 'done' })
				);
				return null;
			case 'wait': {
				const next = mailbox.shift();
				if (next) return next;
				if (!link.connected) return { heard: 'unplugged' };
				const begun = clock.now();
				const check = () => {
					if (mine !== turn) return;
					const quietSince = Math.max(begun, lastByteAt);
					const left = quietSince + current.idleMs - clock.now();
					if (left > 1e-6) {
						takeBack = clock.after(left, check);
						return;
					}
					for (const event of framer.end()) hear(event);
					resume(mailbox.shift() ?? { heard: 'silence' });
				};
				takeBack = clock.after(current.idleMs, check);
				return null;
			}
		}
	}

	turn = 1;
	const first = conversation.next({ heard: 'done' });
	if (first.done) {
		finished = true;
		stopListening();
		done(first.value);
	} else {
		step = first.value;
		const heard = begin(step);
		if (heard) resume(heard);
	}

	return {
		cancel() {
			if (finished || cancelled) return;
			cancelled = true;
			log('note', new Uint8Array(), 'Cancelled.');
			// A message that is on its way out cannot be called back, and the device gets its rest after it.
			if (step?.do !== 'send' && step?.do !== 'keep' && step?.do !== 'sleep') resume({ heard: 'cancelled' });
		}
	};
}
