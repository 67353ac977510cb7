import { orError } from '$lib/server/answer';
import { mapHostNeeds } from '$lib/server/controllers';
import { listKeptFiles } from '$lib/server/kept-files';

export const load = async ({ locals, params }) => ({
	files: await orError(listKeptFiles(locals.studio, { map: params.map })),
	controllers: await orError(mapHostNeeds(locals.studio, params.map))
});
