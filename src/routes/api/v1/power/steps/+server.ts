import { answer, body } from '$lib/server/answer';
import { moveOrderSchema } from '$lib/server/edit-orders';
import { movePower } from '$lib/server/power';

export const POST = (event) =>
	answer(async () => movePower(event.locals.studio, await body(event, moveOrderSchema)));
