import { orError } from '$lib/server/answer';
import { mapHostNeeds } from '$lib/server/controllers';
import { listMapFiles } from '$lib/server/map-files';

export const load = async ({ locals, params }) => ({
	files: await orError(listMapFiles(locals.studio, params.map)),
	controllers: await orError(mapHostNeeds(locals.studio, params.map))
});
