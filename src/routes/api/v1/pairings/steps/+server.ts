import { answer, body } from '$lib/server/answer';
import { moveOrderSchema } from '$lib/server/edit-orders';
import { movePairings } from '$lib/server/pairings';

export const POST = (event) =>
	answer(async () => movePairings(event.locals.studio, await body(event, moveOrderSchema)));
