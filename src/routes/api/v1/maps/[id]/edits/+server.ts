import { answer, body } from '$lib/server/answer';
import { editMap, editMapSchema } from '$lib/server/maps';

export const POST = (event) =>
	answer(async () => editMap(event.locals.studio, event.params.id, await body(event, editMapSchema)));
