import { answer, body } from '$lib/server/answer';
import { createMap, listMaps, newMapSchema } from '$lib/server/maps';

export const GET = ({ locals }) => answer(() => listMaps(locals.studio));

export const POST = (event) =>
	answer(async () => createMap(event.locals.studio, await body(event, newMapSchema)), 201);
