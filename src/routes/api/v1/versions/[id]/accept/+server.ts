import { answer } from '$lib/server/answer';
import { acceptVersion } from '$lib/server/drawer';

export const POST = ({ locals, params }) => answer(() => acceptVersion(locals.studio, params.id));
