import { deviceSchema } from '$lib/core/gear';
import { answer, body } from '$lib/server/answer';
import { archiveDevice, getDevice, updateDevice } from '$lib/server/gear';

export const GET = ({ locals, params }) => answer(() => getDevice(locals.studio, params.id));

export const PUT = (event) =>
	answer(async () => updateDevice(event.locals.studio, event.params.id, await body(event, deviceSchema)));

export const DELETE = ({ locals, params }) => answer(() => archiveDevice(locals.studio, params.id));
