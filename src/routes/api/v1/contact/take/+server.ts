import { takeSchema } from '$lib/core/contact';
import { answer, body } from '$lib/server/answer';
import { takeFound } from '$lib/server/contact';

export const POST = (event) =>
	answer(async () => takeFound(event.locals.studio, await body(event, takeSchema)), 201);
