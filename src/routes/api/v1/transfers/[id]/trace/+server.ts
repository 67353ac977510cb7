import { answer, body } from '$lib/server/answer';
import { traceSchema } from '$lib/core/drawer';
import { readTrace } from '$lib/server/store/traces';
import { appendTrace } from '$lib/server/transfers';

export const GET = ({ locals, params }) => answer(() => readTrace(locals.studio, params.id));

export const POST = (event) =>
	answer(async () => appendTrace(event.locals.studio, event.params.id, await body(event, traceSchema)));
