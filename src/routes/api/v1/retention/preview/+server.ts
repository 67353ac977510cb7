import { retentionSchema } from '$lib/core/drawer';
import { answer, body } from '$lib/server/answer';
import { previewRetention } from '$lib/server/keeping';

export const POST = (event) =>
	answer(async () => previewRetention(event.locals.studio, await body(event, retentionSchema)));
