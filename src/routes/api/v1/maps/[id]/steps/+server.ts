import { answer, body } from '$lib/server/answer';
import { moveOrderSchema } from '$lib/server/edit-orders';
import { moveMap } from '$lib/server/maps';

export const POST = (event) =>
	answer(async () => moveMap(event.locals.studio, event.params.id, await body(event, moveOrderSchema)));
