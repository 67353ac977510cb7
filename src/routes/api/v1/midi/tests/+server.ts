import { answer, body } from '$lib/server/answer';
import { keepAdapterTest, keepTestSchema } from '$lib/server/midi-ports';

export const POST = (event) =>
	answer(async () => {
		const { key, verdict } = await body(event, keepTestSchema);
		return keepAdapterTest(event.locals.studio, key, verdict);
	}, 201);
