import { listDevices } from '$lib/server/gear';
import { getPower } from '$lib/server/power';

export const load = async ({ locals }) => ({
	opened: await getPower(locals.studio),
	devices: (await listDevices(locals.studio)).map(({ id, name, power }) => ({ id, name, power }))
});
