import { answer } from '$lib/server/answer';
import { addController } from '$lib/server/controllers';

export const POST = ({ locals, params }) => answer(() => addController(locals.studio, params.id), 201);
