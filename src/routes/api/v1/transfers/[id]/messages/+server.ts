import { toHex } from '$lib/core/midi';
import { answer, body } from '$lib/server/answer';
import { appendMessages, receivedMessages } from '$lib/server/transfers';
import { appendSchema } from '$lib/core/drawer';

export const GET = ({ locals, params }) =>
	answer(async () => ({
		messages: (await receivedMessages(locals.studio, params.id)).map((bytes) => toHex(bytes))
	}));

export const POST = (event) =>
	answer(
		async () => ({
			stored: await appendMessages(event.locals.studio, event.params.id, await body(event, appendSchema))
		}),
		201
	);
