import { answer } from '$lib/server/answer';
import { bringVersionBack } from '$lib/server/version-moves';

export const POST = ({ locals, params }) => answer(() => bringVersionBack(locals.studio, params.id));
