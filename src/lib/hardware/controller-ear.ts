import type { HeardMessage } from '../core/control';
import { traffic } from './traffic.svelte';

/** Nothing for so long, and a hand has let go. */
const REST_MS = 60;
/** Clock, active sensing and the like are no hand's. */
const REAL_TIME = 0xf8;

/**
 * Hears what controllers say on the ports of this tab, in bursts: messages with no rest between them, of one port.
 * @returns what ends it; a burst that is not over is left out
 */
export function hearBursts(onBurst: (burst: HeardMessage[], port: string) => void): () => void {
	const open = new Map<string, { heard: HeardMessage[]; rest: ReturnType<typeof setTimeout> }>();
	const end = traffic.watch(({ port, way, bytes, atMs }) => {
		if (way !== 'received' || bytes.length === 0 || bytes[0] >= REAL_TIME) return;
		const burst = open.get(port);
		clearTimeout(burst?.rest);
		// Put on, not copied: a flood without a rest would cost its square.
		const heard = burst?.heard ?? [];
		heard.push({ atMs, bytes });
		const rest = setTimeout(() => {
			open.delete(port);
			onBurst(heard, port);
		}, REST_MS);
		open.set(port, { heard, rest });
	});
	return () => {
		end();
		for (const { rest } of open.values()) clearTimeout(rest);
	};
}
