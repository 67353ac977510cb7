import { answer } from '$lib/server/answer';
import { keepUnfinished } from '$lib/server/unfinished';

export const POST = ({ locals, params }) =>
	answer(async () => ({ versionId: await keepUnfinished(locals.studio, params.id) }));
