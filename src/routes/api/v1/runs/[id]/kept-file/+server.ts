import { answer, body } from '$lib/server/answer';
import { chooseKeptRunFile, keptRunFileSchema } from '$lib/server/procedure-runs';

export const POST = (event) =>
	answer(async () =>
		chooseKeptRunFile(event.locals.studio, event.params.id, await body(event, keptRunFileSchema))
	);
