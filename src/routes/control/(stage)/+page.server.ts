import { listMaps } from '$lib/server/maps';
import { shippedSurfaces } from '$lib/server/surfaces';

export const load = async ({ locals }) => ({
	maps: await listMaps(locals.studio),
	surfaces: shippedSurfaces().map(({ id, maker, model, says }) => ({
		id,
		title: `${maker} ${model}`.trim(),
		says
	}))
});
