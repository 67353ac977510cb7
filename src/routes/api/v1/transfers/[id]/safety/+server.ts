import { answer, body } from '$lib/server/answer';
import { keepSafetyCopy } from '$lib/server/transfers';
import { safetySchema } from '$lib/core/drawer';

export const POST = (event) =>
	answer(
		async () => ({
			versionId: await keepSafetyCopy(event.locals.studio, event.params.id, await body(event, safetySchema))
		}),
		201
	);
