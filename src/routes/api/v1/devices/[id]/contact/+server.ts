import { answer, body } from '$lib/server/answer';
import { contactSchema, noteContact } from '$lib/server/contact';

export const POST = (event) =>
	answer(
		async () => noteContact(event.locals.studio, event.params.id, await body(event, contactSchema)),
		201
	);
