import { answer } from '$lib/server/answer';
import { removeMapFile } from '$lib/server/map-files';

export const POST = ({ params, locals }) => answer(() => removeMapFile(locals.studio, params.id, true));
