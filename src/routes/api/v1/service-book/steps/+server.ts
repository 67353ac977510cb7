import { answer, body } from '$lib/server/answer';
import { moveOrderSchema } from '$lib/server/edit-orders';
import { moveServiceBook } from '$lib/server/service-book';

export const POST = (event) =>
	answer(async () => moveServiceBook(event.locals.studio, await body(event, moveOrderSchema)));
