import { answer, body } from '$lib/server/answer';
import { finishSchema } from '$lib/core/drawer';
import { finishTransfer } from '$lib/server/transfers';

export const POST = (event) =>
	answer(async () => finishTransfer(event.locals.studio, event.params.id, await body(event, finishSchema)));
