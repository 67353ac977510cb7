import { answer, body } from '$lib/server/answer';
import { editOrderSchema } from '$lib/server/edit-orders';
import { editPower } from '$lib/server/power';

export const POST = (event) =>
	answer(async () => editPower(event.locals.studio, await body(event, editOrderSchema)));
