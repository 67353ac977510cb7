import { answer, body } from '$lib/server/answer';
import { addToBankSchema } from '$lib/server/bank-orders';
import { addToBank } from '$lib/server/banks';

export const POST = (event) =>
	answer(async () => addToBank(event.locals.studio, event.params.id, await body(event, addToBankSchema)));
