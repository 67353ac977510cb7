import { orError } from '$lib/server/answer';
import { toldDevices } from '$lib/server/device-targets';
import { getMap } from '$lib/server/maps';

export const load = async ({ locals, params }) => ({
	opened: await orError(getMap(locals.studio, params.map)),
	told: await toldDevices(locals.studio)
});
