import { answer } from '$lib/server/answer';
import { touchDevice } from '$lib/server/gear';

export const POST = ({ locals, params }) => answer(() => touchDevice(locals.studio, params.id));
