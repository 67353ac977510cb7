import { answer, body } from '$lib/server/answer';
import { editOrderSchema } from '$lib/server/edit-orders';
import { editSet } from '$lib/server/set';

export const POST = (event) =>
	answer(async () => editSet(event.locals.studio, await body(event, editOrderSchema)));
