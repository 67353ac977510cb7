import { answer, body } from '$lib/server/answer';
import { moveOrderSchema } from '$lib/server/edit-orders';
import { moveFloor } from '$lib/server/floor';

export const POST = (event) =>
	answer(async () => moveFloor(event.locals.studio, await body(event, moveOrderSchema)));
