import { answer, body } from '$lib/server/answer';
import { editOrderSchema } from '$lib/server/edit-orders';
import { editPairings } from '$lib/server/pairings';

export const POST = (event) =>
	answer(async () => editPairings(event.locals.studio, await body(event, editOrderSchema)));
