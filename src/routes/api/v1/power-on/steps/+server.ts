import { answer, body } from '$lib/server/answer';
import { moveOrderSchema } from '$lib/server/edit-orders';
import { movePowerOn } from '$lib/server/switching';

export const POST = (event) =>
	answer(async () => movePowerOn(event.locals.studio, await body(event, moveOrderSchema)));
