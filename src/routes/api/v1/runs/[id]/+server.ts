import { answer } from '$lib/server/answer';
import { getRun } from '$lib/server/procedure-runs';

export const GET = ({ locals, params }) => answer(() => getRun(locals.studio, params.id));
