import { answer, body } from '$lib/server/answer';
import { takeOver, takeTemplateSchema } from '$lib/server/controllers';

export const POST = (event) =>
	answer(async () => takeOver(event.locals.studio, event.params.id, await body(event, takeTemplateSchema)));
