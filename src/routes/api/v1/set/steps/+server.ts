import { answer, body } from '$lib/server/answer';
import { moveOrderSchema } from '$lib/server/edit-orders';
import { moveSet } from '$lib/server/set';

export const POST = (event) =>
	answer(async () => moveSet(event.locals.studio, await body(event, moveOrderSchema)));
