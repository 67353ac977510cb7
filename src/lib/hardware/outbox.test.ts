import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Outbox, type Told } from './outbox';

interface Call {
	path: string;
	body: { position?: number; messages?: string[]; part?: number; lines?: unknown[]; use?: number[] | null };
}

/** What the server was told, in order; calls that it shall not answer are counted down. */
let calls: Call[] = [];
let silent = 0;
let refusal: { code: string; message: string; remedy: string } | null = null;
let told: Told[] = [];

beforeEach(() => {
	[calls, silent, refusal, told] = [[], 0, null, []];
	vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
	vi.stubGlobal('fetch', (path: string, init: { body: string }) => {
		if (silent > 0) {
			silent--;
			return Promise.reject(new TypeError('fetch failed'));
		}
		if (refusal) return Promise.resolve(new Response(JSON.stringify({ problem: refusal }), { status: 409 }));
		calls.push({
			path: path.replace('/api/v1/transfers/t', ''),
			body: JSON.parse(init.body) as Call['body']
		});
		return Promise.resolve(new Response('{}'));
	});
});
afterEach(() => {
	vi.unstubAllGlobals();
	vi.useRealTimers();
});

const outbox = (messages: string[] = [], part = 0) =>
	new Outbox('t', { messages, part }, (now) => told.push(now));
const bytes = (last: number) => Uint8Array.of(0xf0, last, 0xf7);
const line = (atMs: number) => ({ atMs, way: 'received' as const, hex: 'f0f7', says: `line ${atMs}` });
const report = {
	status: 'complete' as const,
	reason: null,
	firmware: null,
	missing: 0,
	readBack: [],
	touched: null,
	outcome: {}
};
/** Lets everything happen that waits for the server, or for a second to pass. */
const settled = async (work: Promise<unknown>) => {
	let over = false;
	void work.then(
		() => (over = true),
		() => (over = true)
	);
	while (!over) await vi.advanceTimersByTimeAsync(1000);
	return work;
};
const of = (path: string) => calls.filter((call) => call.path === path).map(({ body }) => body);

describe('what the server is told', () => {
	it('is every message in order, after those of an earlier attempt, and that it ended when all are told', async () => {
		const box = outbox(['f001f7'], 3);
		for (let i = 2; i < 8; i++) box.add(bytes(i));
		box.log(line(1));
		await settled(box.finish(report as never, false, [bytes(1), bytes(2), bytes(3)]));
		expect(of('/messages').flatMap(({ messages }) => messages)).toEqual(
			[2, 3, 4, 5, 6, 7].map((i) => `f00${i}f7`)
		);
		let position = 1;
		for (const body of of('/messages')) {
			expect(body.position).toBe(position);
			position += body.messages!.length;
		}
		expect(of('/trace')).toMatchObject([{ part: 3, lines: [line(1)] }]);
		expect(calls.at(-1)).toMatchObject({ path: '/finish', body: { use: [0, 1, 2] } });
		expect(told.at(-1)).toEqual({ stored: 7, storing: null });
	});

	it('waits for a server that is away, says so, and loses nothing', async () => {
		silent = 5;
		const box = outbox();
		box.add(bytes(1));
		box.add(bytes(2));
		await settled(box.finish(report as never, true, null));
		expect(of('/messages').flatMap(({ messages }) => messages)).toEqual(['f001f7', 'f002f7']);
		expect(told.some(({ storing }) => storing?.code === 'server.unreachable')).toBe(true);
		expect(told.at(-1)).toEqual({ stored: 2, storing: null });
		expect(calls.at(-1)).toMatchObject({ path: '/finish', body: { proved: true, use: null } });
	});

	it('gives up after a minute, and says why', async () => {
		silent = Infinity;
		const box = outbox();
		box.add(bytes(1));
		await expect(settled(box.finish(report as never, false, null))).rejects.toMatchObject({
			code: 'server.unreachable'
		});
		expect(calls).toEqual([]);
	});

	it('stops at what the server refuses: it is not asked again', async () => {
		refusal = { code: 'transfer.conflict', message: 'Another message stands there.', remedy: 'Resume.' };
		const box = outbox();
		box.add(bytes(1));
		await expect(settled(box.finish(report as never, false, null))).rejects.toMatchObject({
			code: 'transfer.conflict'
		});
	});

	it('are parts of the log one after the other; what could not be told goes with the next', async () => {
		const box = outbox();
		box.log(line(1));
		silent = 1;
		await expect(box.flush()).rejects.toMatchObject({ code: 'server.unreachable' });
		expect(told.at(-1)!.storing?.code).toBe('server.unreachable');
		box.log(line(2));
		await box.flush();
		await box.flush();
		expect(of('/trace')).toMatchObject([
			{ part: 0, lines: [line(1), line(2)] },
			// Nothing new: only that it is alive.
			{ part: 1, lines: [] }
		]);
	});

	it('is that the line damages data, with everything that comes after', async () => {
		const box = outbox();
		box.add(bytes(1));
		await vi.advanceTimersByTimeAsync(0);
		box.distrusted = true;
		box.add(bytes(2));
		await settled(box.finish(report as never, false, null));
		expect(of('/messages')).toMatchObject([{ distrusted: false }, { distrusted: true }]);
	});
});
