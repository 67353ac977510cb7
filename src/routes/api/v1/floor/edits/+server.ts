import { answer, body } from '$lib/server/answer';
import { editOrderSchema } from '$lib/server/edit-orders';
import { editFloor } from '$lib/server/floor';

export const POST = (event) =>
	answer(async () => editFloor(event.locals.studio, await body(event, editOrderSchema)));
