import { answer, body } from '$lib/server/answer';
import { actOnRun, runOrderSchema } from '$lib/server/procedure-runs';

export const POST = (event) =>
	answer(async () => actOnRun(event.locals.studio, event.params.id, await body(event, runOrderSchema)));
