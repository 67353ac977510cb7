import { answer } from '$lib/server/answer';
import { noteWay } from '$lib/server/contact';

export const POST = ({ locals, params }) => answer(() => noteWay(locals.studio, params.id), 201);
