import { Problem, type ProblemData } from '../core/problem';

/** Fetch standard: 64 KiB for all requests under way that outlive their page. */
const KEEPALIVE_LIMIT = 50_000;

/** Calls the app's own API. With `keepalive` the request outlives its page, up to 64 kB of it. @throws Problem: the server's own words, or that it cannot be reached */
export async function call<T>(
	method: 'GET' | 'POST' | 'PUT' | 'DELETE',
	path: string,
	body?: unknown,
	options: { keepalive?: boolean } = {}
): Promise<T> {
	const form = body === undefined || body instanceof FormData || body instanceof Blob;
	const sent = form ? body : JSON.stringify(body);
	const request = (keepalive: boolean) =>
		fetch(`/api/v1${path}`, {
			method,
			keepalive,
			headers: form ? undefined : { 'content-type': 'application/json' },
			body: sent
		});
	let response: Response;
	try {
		// Browsers let little outlive its page, and refuse more: that goes the usual way.
		const small = typeof sent === 'string' && sent.length < KEEPALIVE_LIMIT;
		response =
			options.keepalive && small ? await request(true).catch(() => request(false)) : await request(false);
	} catch {
		throw new Problem(
			'server.unreachable',
			'The server does not answer.',
			'Look whether Silent Drawer still runs in its terminal. What it had confirmed is stored.'
		);
	}
	if (response.status === 204) return undefined as T;
	const answer = (await response.json().catch(() => ({}))) as { problem?: ProblemData } & T;
	if (response.ok) return answer;
	const { problem } = answer;
	throw new Problem(
		problem?.code ?? 'server.failed',
		problem?.message ?? `The server answered with ${response.status}.`,
		problem?.remedy ?? 'Try again; the server’s log says more.',
		problem?.detail
	);
}
