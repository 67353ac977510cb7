import { answer, body } from '$lib/server/answer';
import { undoTake, undoTakeSchema } from '$lib/server/contact';

export const POST = (event) =>
	answer(async () => undoTake(event.locals.studio, await body(event, undoTakeSchema)));
