import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../midi';
import { Problem } from '../problem';
import { VirtualClock } from './clock';
import { converse, type Conversation, type Heard, type TraceLine } from './conversation';
import type { Link, LinkListener } from './link';

/** A line whose other end is the test. */
function line() {
	const clock = new VirtualClock();
	const listeners = new Set<LinkListener>();
	const sent: string[] = [];
	const state = { connected: true, sendMs: 1, leaves: true };
	const link: Link = {
		name: 'test',
		get connected() {
			return state.connected;
		},
		send(bytes, done) {
			sent.push(toHex(bytes));
			clock.after(state.sendMs, () => done(state.leaves && state.connected));
		},
		listen(listener) {
			listeners.add(listener);
			return () => listeners.delete(listener);
		}
	};
	const each = (tell: (listener: LinkListener) => void) => [...listeners].forEach(tell);
	return {
		clock,
		sent,
		state,
		listeners,
		link,
		hear: (hex: string) => each((listener) => listener.bytes(fromHex(hex))),
		pull() {
			state.connected = false;
			each((listener) => listener.unplugged());
		},
		put() {
			state.connected = true;
			each((listener) => listener.plugged());
		}
	};
}

function run<R>(
	on: ReturnType<typeof line>,
	conversation: Conversation<R>,
	keep?: (what: unknown) => Problem | undefined
) {
	const trace: TraceLine[] = [];
	const end: { value?: R } = {};
	const running = converse(
		conversation,
		{
			link: on.link,
			clock: on.clock,
			trace: (entry) => trace.push(entry),
			keep: (what, kept) => kept(keep?.(what))
		},
		(value) => (end.value = value)
	);
	return { trace, end, running };
}

function* waiting(idleMs: number, times = 1): Conversation<Heard[]> {
	const heard: Heard[] = [];
	for (let i = 0; i < times; i++) heard.push(yield { do: 'wait', idleMs });
	return heard;
}

describe('waiting', () => {
	it('ends with the message, whatever chunks it comes in', () => {
		const on = line();
		const { end } = run(on, waiting(100));
		for (const chunk of ['f0 7d', '01', '02 f7']) on.hear(chunk);
		expect(end.value).toMatchObject([{ heard: 'message', bytes: fromHex('f07d0102f7') }]);
	});

	it('ends with silence after so many ms without a byte; every byte puts it off', () => {
		const on = line();
		const { end } = run(on, waiting(100));
		on.clock.after(90, () => on.hear('f0 7d'));
		on.clock.after(180, () => on.hear('01'));
		on.clock.runUntil(200);
		expect(end.value).toBeUndefined();
		on.clock.runUntil(300);
		// What was open is not thrown away: it is told as broken.
		expect(end.value).toMatchObject([{ heard: 'broken', reason: 'unfinished', bytes: fromHex('f07d01') }]);
	});

	it('hears messages that came while it was doing something else, in order', () => {
		const on = line();
		const conversation = (function* (): Conversation<string[]> {
			yield { do: 'sleep', ms: 50 };
			const all: string[] = [];
			for (let i = 0; i < 2; i++) {
				const heard = yield { do: 'wait', idleMs: 10 };
				all.push(heard.heard === 'message' ? toHex(heard.bytes) : heard.heard);
			}
			return all;
		})();
		const { end } = run(on, conversation);
		on.hear('f0 7d 01 f7 f0 7d 02 f7');
		on.clock.runUntil(60);
		expect(end.value).toEqual(['f07d01f7', 'f07d02f7']);
	});

	it('passes real-time bytes by and logs a row of them as one line', () => {
		const on = line();
		const { end, trace } = run(on, waiting(100));
		on.hear('f8 f0 f8 7d f8 01 f7');
		expect(end.value).toMatchObject([{ heard: 'message' }]);
		expect(trace.map(({ way, bytes }) => `${way} ${toHex(bytes)}`)).toEqual([
			'received f8f8f8',
			'received f07d01f7'
		]);
	});

	it('hears an hour of clock before a dump without losing a byte of it, or its time', () => {
		const on = line();
		const { end, trace } = run(on, waiting(100));
		const chunk = 'f8'.repeat(1000);
		for (let i = 0; i < 173; i++) on.hear(chunk);
		on.hear('f0 7d 01 f7');
		expect(end.value).toMatchObject([{ heard: 'message', bytes: fromHex('f07d01f7') }]);
		expect(trace.map(({ atMs, way, bytes }) => [atMs, way, bytes.length])).toEqual([
			[0, 'received', 173_000],
			[0, 'received', 4]
		]);
	});

	it('is not woken by notes, which are logged', () => {
		const on = line();
		const { end, trace } = run(on, waiting(100));
		on.hear('90 3c 40');
		expect(end.value).toBeUndefined();
		expect(trace).toHaveLength(1);
		on.clock.runUntil(500);
		expect(end.value).toMatchObject([{ heard: 'silence' }]);
	});
});

describe('a port that goes away', () => {
	it('wakes who waits, and is waited for', () => {
		const on = line();
		const conversation = (function* (): Conversation<string[]> {
			const first = yield { do: 'wait', idleMs: 1000 };
			const back = yield { do: 'await port', patienceMs: 500 };
			const after = yield { do: 'wait', idleMs: 20 };
			return [first.heard, back.heard, after.heard];
		})();
		const { end, trace } = run(on, conversation);
		on.clock.after(10, () => on.pull());
		on.clock.after(100, () => on.put());
		on.clock.run();
		// Word of the pulled cable does not end the waiting that begins after it is back.
		expect(end.value).toEqual(['unplugged', 'done', 'silence']);
		expect(trace.map(({ says }) => says)).toEqual([
			'The port is gone: unplugged or switched off.',
			'The port is back.'
		]);
	});

	it('is given up after its patience', () => {
		const on = line();
		on.state.connected = false;
		const { end } = run(
			on,
			(function* (): Conversation<string> {
				return (yield { do: 'await port', patienceMs: 300 }).heard;
			})()
		);
		on.clock.run();
		expect(end.value).toBe('silence');
		expect(on.clock.now()).toBe(300);
	});

	it('fails what is sent', () => {
		const on = line();
		const say = function* (): Conversation<string> {
			return (yield { do: 'send', bytes: fromHex('f0f7') }).heard;
		};
		const during = run(on, say());
		on.state.leaves = false;
		on.clock.run();
		expect(during.end.value).toBe('unplugged');
		on.state.connected = false;
		expect(run(on, say()).end.value).toBe('unplugged');
		expect(on.sent).toHaveLength(1);
	});
});

describe('cancelling', () => {
	it('is heard by the step that waits, and by every later one', () => {
		const on = line();
		const { end, running } = run(on, waiting(1000, 2));
		running.cancel();
		running.cancel();
		on.clock.run();
		expect(end.value).toEqual([{ heard: 'cancelled' }, { heard: 'cancelled' }]);
	});

	it('lets a message that is on its way out go first', () => {
		const on = line();
		on.state.sendMs = 50;
		const conversation = (function* (): Conversation<string> {
			return (yield { do: 'send', bytes: fromHex('f07d01f7') }).heard;
		})();
		const { end, running } = run(on, conversation);
		running.cancel();
		expect(end.value).toBeUndefined();
		on.clock.run();
		expect(end.value).toBe('cancelled');
		expect(on.sent).toEqual(['f07d01f7']);
	});
});

it('goes on only when something is kept, and tells why it was not', () => {
	const on = line();
	const keeping = function* (): Conversation<string> {
		const heard = yield { do: 'keep', what: 'a copy' };
		return heard.heard === 'not kept' ? heard.problem.code : heard.heard;
	};
	const seen: unknown[] = [];
	expect(run(on, keeping(), (what) => void seen.push(what)).end.value).toBe('done');
	expect(seen).toEqual(['a copy']);
	expect(
		run(on, keeping(), () => new Problem('disk.full', 'The disk is full.', 'Make room.')).end.value
	).toBe('disk.full');
});

it('stops listening when it has ended', () => {
	const on = line();
	run(on, waiting(10));
	expect(on.listeners.size).toBe(1);
	on.clock.run();
	expect(on.listeners.size).toBe(0);
});
