import { answer } from '$lib/server/answer';
import { getVersion } from '$lib/server/drawer';

export const GET = ({ locals, params }) => answer(() => getVersion(locals.studio, params.id));
