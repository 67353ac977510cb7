import { answer } from '$lib/server/answer';
import { getMap, removeMap } from '$lib/server/maps';

export const GET = ({ params, locals }) => answer(() => getMap(locals.studio, params.id));
export const DELETE = ({ params, locals }) => answer(() => removeMap(locals.studio, params.id));
