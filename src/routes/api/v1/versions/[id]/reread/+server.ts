import { answer } from '$lib/server/answer';
import { rereadVersion } from '$lib/server/reread';

export const POST = ({ locals, params }) => answer(() => rereadVersion(locals.studio, params.id));
