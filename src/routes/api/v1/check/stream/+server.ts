import { Problem } from '$lib/core/problem';
import { checkOrderSchema, checkStudio } from '$lib/server/check';
import { answer, body } from '$lib/server/answer';

/** A line of JSON at most so often, in ms. */
const TELL_MS = 100;

/**
 * As POST /check, told while it goes on: lines of JSON, `{"done":…,"of":…}` and at the end `{"report":…}` or
 * `{"problem":…}`. Whoever stops reading calls the check off.
 */
export const POST = async (event) => {
	const { studio } = event.locals;
	const checked = await answer(() => body(event, checkOrderSchema));
	if (!checked.ok) return checked;
	const { quarantine } = checkOrderSchema.parse(await checked.json());
	const stop = new AbortController();
	const text = new TextEncoder();
	let toldAt = -TELL_MS;
	const stream = new ReadableStream<Uint8Array>({
		async start(controller) {
			const tell = (line: unknown) => {
				if (!stop.signal.aborted) controller.enqueue(text.encode(`${JSON.stringify(line)}\n`));
			};
			try {
				const report = await checkStudio(studio, {
					quarantine,
					signal: stop.signal,
					progress: (done, of) => {
						if (studio.clock() - toldAt < TELL_MS) return;
						toldAt = studio.clock();
						tell({ done, of });
					}
				});
				tell({ report });
			} catch (error) {
				if (!(error instanceof Problem)) console.error(error);
				tell({
					problem:
						error instanceof Problem
							? error.toJSON()
							: new Problem(
									'unforeseen',
									'The check failed.',
									'Try again; the server’s log says more.'
								).toJSON()
				});
			}
			if (!stop.signal.aborted) controller.close();
		},
		cancel: () => stop.abort()
	});
	return new Response(stream, {
		headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' }
	});
};
