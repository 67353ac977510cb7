import { answer, body } from '$lib/server/answer';
import { editOrderSchema } from '$lib/server/edit-orders';
import { editPowerOn } from '$lib/server/switching';

export const POST = (event) =>
	answer(async () => editPowerOn(event.locals.studio, await body(event, editOrderSchema)));
