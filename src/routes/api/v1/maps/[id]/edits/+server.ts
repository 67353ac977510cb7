import { answer, body } from '$lib/server/answer';
import { editOrderSchema } from '$lib/server/edit-orders';
import { editMap } from '$lib/server/maps';

export const POST = (event) =>
	answer(async () => editMap(event.locals.studio, event.params.id, await body(event, editOrderSchema)));
