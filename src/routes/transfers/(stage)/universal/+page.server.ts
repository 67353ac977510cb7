import { listUnits } from '$lib/server/bench';

export const load = async ({ locals }) => ({
	units: (await listUnits(locals.studio)).map(({ id, name }) => ({ id, name }))
});
