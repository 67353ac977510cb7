import { answer, body } from '$lib/server/answer';
import { doneInService, doneSchema } from '$lib/server/service-book';

export const POST = (event) =>
	answer(async () => doneInService(event.locals.studio, await body(event, doneSchema)));
