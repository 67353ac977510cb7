import { answer, body } from '$lib/server/answer';
import { moveSchema, moveWiring } from '$lib/server/wiring-history';

export const POST = (event) =>
	answer(async () => moveWiring(event.locals.studio, await body(event, moveSchema)));
