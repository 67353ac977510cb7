import type { Socket } from 'node:net';
import type { RequestEvent } from '@sveltejs/kit';

/** Aborts when whoever asked is gone, by the connection itself: the request's own signal stays silent then. @returns it, and what ends the watch */
export function hangUp(event: RequestEvent): { signal: AbortSignal; end: () => void } {
	const gone = new AbortController();
	const { req } = (event.platform ?? {}) as { req?: { socket: Socket } };
	const abort = () => gone.abort();
	req?.socket.once('close', abort);
	return { signal: gone.signal, end: () => void req?.socket.off('close', abort) };
}
