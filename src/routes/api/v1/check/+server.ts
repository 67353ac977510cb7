import { answer, body } from '$lib/server/answer';
import { checkOrderSchema, checkStudio } from '$lib/server/check';

export const GET = ({ locals }) => answer(() => checkStudio(locals.studio));

export const POST = (event) =>
	answer(async () => checkStudio(event.locals.studio, await body(event, checkOrderSchema)));
