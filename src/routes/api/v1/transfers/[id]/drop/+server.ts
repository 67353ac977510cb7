import { answer } from '$lib/server/answer';
import { dropUnfinished } from '$lib/server/unfinished';

export const POST = ({ locals, params }) => answer(() => dropUnfinished(locals.studio, params.id));
