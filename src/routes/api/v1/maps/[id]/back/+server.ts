import { answer } from '$lib/server/answer';
import { bringMapBack } from '$lib/server/maps';

export const POST = ({ params, locals }) => answer(() => bringMapBack(locals.studio, params.id));
