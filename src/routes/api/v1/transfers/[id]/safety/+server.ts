import { answer, body } from '$lib/server/answer';
import { keepSafetyCopy, safetySchema } from '$lib/server/transfers';

export const POST = (event) => answer(async () => ({ versionId: await keepSafetyCopy(event.locals.studio, event.params.id, await body(event, safetySchema)) }), 201);
