import { answer, body } from '$lib/server/answer';
import { forgetPort, forgetSchema } from '$lib/server/midi-ports';

export const POST = (event) =>
	answer(async () => {
		const { key, direction } = await body(event, forgetSchema);
		await forgetPort(event.locals.studio, key, direction);
	});
