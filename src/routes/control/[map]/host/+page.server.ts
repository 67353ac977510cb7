import { orError } from '$lib/server/answer';
import { listMapFiles } from '$lib/server/map-files';

export const load = async ({ locals, params }) => ({
	files: await orError(listMapFiles(locals.studio, params.map))
});
