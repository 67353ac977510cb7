import { answer, body } from '$lib/server/answer';
import { appendTrace, readTrace } from '$lib/server/transfer-trace';
import { traceSchema } from '$lib/server/transfer-orders';

export const GET = ({ locals, params }) => answer(() => readTrace(locals.studio, params.id));

export const POST = (event) =>
	answer(async () => appendTrace(event.locals.studio, event.params.id, await body(event, traceSchema)));
