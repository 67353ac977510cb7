import { answer, body } from '$lib/server/answer';
import { getSet } from '$lib/server/set';
import { noteSent, sentSchema } from '$lib/server/set-held';

export const POST = (event) =>
	answer(async () => {
		await noteSent(event.locals.studio, await body(event, sentSchema));
		return getSet(event.locals.studio);
	});
