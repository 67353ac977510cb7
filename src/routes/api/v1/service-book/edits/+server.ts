import { answer, body } from '$lib/server/answer';
import { editOrderSchema } from '$lib/server/edit-orders';
import { editServiceBook } from '$lib/server/service-book';

export const POST = (event) =>
	answer(async () => editServiceBook(event.locals.studio, await body(event, editOrderSchema)));
