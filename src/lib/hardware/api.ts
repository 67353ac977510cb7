import { Problem, type ProblemData } from '../core/problem';

/** Calls the app's own API. @throws Problem: the server's own words, or that it cannot be reached */
export async function call<T>(
	method: 'GET' | 'POST' | 'PUT' | 'DELETE',
	path: string,
	body?: unknown
): Promise<T> {
	let response: Response;
	try {
		response = await fetch(`/api/v1${path}`, {
			method,
			headers:
				body === undefined || body instanceof FormData ? undefined : { 'content-type': 'application/json' },
			body: body === undefined || body instanceof FormData ? body : JSON.stringify(body)
		});
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
