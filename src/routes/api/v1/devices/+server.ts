import { deviceSchema } from '$lib/core/gear';
import { answer, body } from '$lib/server/answer';
import { addDevice, listDevices } from '$lib/server/gear';

export const GET = ({ locals, url }) =>
	answer(() => listDevices(locals.studio, { archived: url.searchParams.has('archived') }));

export const POST = (event) =>
	answer(async () => addDevice(event.locals.studio, await body(event, deviceSchema)), 201);
