import { monitorEventLoopDelay } from 'node:perf_hooks';
import { serve } from '../e2e/server-process';
import { n, type Row } from './bench-rows';

/** How long work takes, the best of a few times, and for how long it kept everything else waiting at most. */
export async function measured(
	work: () => Promise<unknown>,
	times = 5
): Promise<{ ms: number; blocked: number }> {
	let ms = Infinity;
	let blocked = Infinity;
	for (let i = 0; i < times; i++) {
		const delay = monitorEventLoopDelay({ resolution: 1 });
		await new Promise((resolve) => setTimeout(resolve, 20));
		delay.enable();
		const start = performance.now();
		await work();
		ms = Math.min(ms, performance.now() - start);
		await new Promise((resolve) => setTimeout(resolve, 5));
		delay.disable();
		blocked = Math.min(blocked, delay.max / 1e6);
	}
	return { ms, blocked };
}

/** Asks for something that costs nothing, again and again, and notes the longest wait: what others wait while `work` runs. */
async function waitedMeanwhile(url: string, work: () => Promise<unknown>): Promise<number> {
	let [over, longest] = [false, 0];
	const observing = (async () => {
		while (!over) {
			const start = performance.now();
			await (await fetch(`${url}/favicon.svg`)).arrayBuffer();
			longest = Math.max(longest, performance.now() - start);
		}
	})();
	try {
		await work();
	} finally {
		over = true;
		await observing;
	}
	return longest;
}

/** For how long each request of a large studio keeps all others waiting, seen from outside of the server. */
export async function waiting(
	row: Row,
	folder: string,
	paths: readonly (readonly [name: string, path: string])[]
): Promise<void> {
	const server = await serve(5397, folder);
	try {
		for (const [name, path] of paths) {
			const waits: number[] = [];
			const times: number[] = [];
			for (let i = 0; i < 8; i++) {
				waits.push(
					await waitedMeanwhile(server.url, async () => {
						const start = performance.now();
						const response = await fetch(server.url + path);
						await response.arrayBuffer();
						if (!response.ok) throw new Error(`${path}: ${response.status}`);
						times.push(performance.now() - start);
					})
				);
			}
			waits.splice(0, 3);
			row(
				`Page ${name}, others waited, ms`,
				n(Math.min(...waits)),
				`at most ${n(Math.max(...waits))}; the page took ${n(Math.min(...times))}`
			);
		}
	} finally {
		await server.kill();
	}
}
