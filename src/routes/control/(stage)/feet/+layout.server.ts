import { getFloor } from '$lib/server/floor';
import { listDevices } from '$lib/server/gear';

export const load = async ({ locals }) => ({
	opened: await getFloor(locals.studio),
	devices: (await listDevices(locals.studio)).map(({ id, name }) => ({ id, name }))
});
