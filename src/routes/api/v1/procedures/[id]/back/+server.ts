import { answer } from '$lib/server/answer';
import { removeProcedure } from '$lib/server/procedures';

export const POST = ({ locals, params }) => answer(() => removeProcedure(locals.studio, params.id, true));
