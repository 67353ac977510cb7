import { answer, body } from '$lib/server/answer';
import { getVersion } from '$lib/server/drawer';
import { letVersionGo, moveVersion, moveVersionSchema } from '$lib/server/version-moves';

export const GET = ({ locals, params }) => answer(() => getVersion(locals.studio, params.id));

export const PUT = (event) =>
	answer(async () => moveVersion(event.locals.studio, event.params.id, await body(event, moveVersionSchema)));

export const DELETE = ({ locals, params }) => answer(() => letVersionGo(locals.studio, params.id));
