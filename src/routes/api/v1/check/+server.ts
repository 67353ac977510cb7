import { answer, body } from '$lib/server/answer';
import { checkOrderSchema, checkStudio } from '$lib/server/check';

/** Looks, and changes nothing. */
export const GET = ({ locals }) => answer(() => checkStudio(locals.studio, { mend: false }));

export const POST = (event) =>
	answer(async () => checkStudio(event.locals.studio, await body(event, checkOrderSchema)));
