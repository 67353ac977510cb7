import { answer, body } from '$lib/server/answer';
import { beginRun, beginRunSchema, listRuns } from '$lib/server/procedure-runs';

export const GET = ({ locals }) => answer(() => listRuns(locals.studio));

export const POST = (event) =>
	answer(async () => beginRun(event.locals.studio, await body(event, beginRunSchema)), 201);
