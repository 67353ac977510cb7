import { retentionSchema } from '$lib/core/drawer';
import { answer, body } from '$lib/server/answer';
import { readRetention, writeRetention } from '$lib/server/keeping';

export const GET = ({ locals }) => answer(() => readRetention(locals.studio));

export const PUT = (event) =>
	answer(async () => writeRetention(event.locals.studio, await body(event, retentionSchema)));
