import { answer, body } from '$lib/server/answer';
import { tickItems, tickOrderSchema } from '$lib/server/switching';

export const POST = (event) =>
	answer(async () => tickItems(event.locals.studio, event.params.id, await body(event, tickOrderSchema)));
