import { listDevices } from '$lib/server/gear';
import { getPairings } from '$lib/server/pairings';

export const load = async ({ locals }) => ({
	opened: await getPairings(locals.studio),
	devices: (await listDevices(locals.studio)).map(({ id, name, maker, model, firmware }) => ({
		id,
		name,
		maker,
		model: model || name,
		firmware
	}))
});
