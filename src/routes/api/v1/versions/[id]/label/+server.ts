import { versionLabelSchema } from '$lib/core/drawer';
import { answer, body } from '$lib/server/answer';
import { labelVersion } from '$lib/server/drawer';

export const PUT = (event) =>
	answer(async () =>
		labelVersion(event.locals.studio, event.params.id, await body(event, versionLabelSchema))
	);
