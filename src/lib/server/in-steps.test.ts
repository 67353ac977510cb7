import { once } from 'node:events';
import { connect, createServer, type AddressInfo } from 'node:net';
import { describe, expect, it, vi } from 'vitest';
import { inSteps, letOthersIn } from './in-steps';
import { readJson } from './sane-body';

/** Works for `ms`, pausing after every millisecond. */
function* busy(ms: number): Generator<void, string> {
	const start = performance.now();
	for (let turn = 1; performance.now() - start < ms; turn++) {
		while (performance.now() - start < turn);
		yield;
	}
	return 'done';
}

/** Counts how often others would have had a turn. */
function knocking(): { count(): number; end(): void } {
	let count = 0;
	const knock = () => {
		count++;
		waiting = setImmediate(knock);
	};
	let waiting = setImmediate(knock);
	return { count: () => count, end: () => clearImmediate(waiting) };
}

describe('work in steps', () => {
	it('lets others in while it goes on, and gives what the work gave', async () => {
		const others = knocking();
		expect(await inSteps(busy(60))).toBe('done');
		others.end();
		expect(others.count()).toBeGreaterThanOrEqual(3);
	});

	it('hears what came in before it goes on, also where it has just been heard itself', async () => {
		let heard = '';
		const heardMeanwhile = await new Promise<string>((resolve, reject) => {
			const server = createServer((socket) =>
				socket.once('data', () => {
					// Over the loopback it is there as soon as it is written.
					socket.write('a request');
					void letOthersIn().then(() => {
						resolve(heard);
						socket.destroy();
						server.close();
					});
				})
			).listen(0, '127.0.0.1', () => {
				const client = connect((server.address() as AddressInfo).port, '127.0.0.1');
				client.on('data', (bytes) => (heard += bytes.toString())).on('error', reject);
				void once(client, 'connect').then(() => client.write('begin'));
			});
		});
		expect(heardMeanwhile).toBe('a request');
	});

	it('reads a long text of JSON in turns, though all of it is there', async () => {
		const parts = 40;
		const bytes = new TextEncoder().encode(JSON.stringify('n'.repeat(parts * 100 - 2)));
		const stream = new ReadableStream<Uint8Array>({
			start(controller) {
				for (let i = 0; i < parts; i++) controller.enqueue(bytes.subarray(i * 100, (i + 1) * 100));
				controller.close();
			}
		});
		let now = 0;
		const clock = vi.spyOn(performance, 'now').mockImplementation(() => (now += 10));
		const others = knocking();
		try {
			expect(await readJson(stream)).toHaveLength(parts * 100 - 2);
			expect(others.count()).toBeGreaterThanOrEqual(parts);
		} finally {
			others.end();
			clock.mockRestore();
		}
	});

	it('fails as the work fails', async () => {
		const failing = (function* (): Generator<void, never> {
			yield;
			throw new RangeError('No.');
		})();
		await expect(inSteps(failing)).rejects.toThrow('No.');
	});
});
