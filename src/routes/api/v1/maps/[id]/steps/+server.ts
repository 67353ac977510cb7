import { answer, body } from '$lib/server/answer';
import { moveMap, moveMapSchema } from '$lib/server/maps';

export const POST = (event) =>
	answer(async () => moveMap(event.locals.studio, event.params.id, await body(event, moveMapSchema)));
