import { answer } from '$lib/server/answer';
import { getSet } from '$lib/server/set';

export const GET = ({ locals }) => answer(() => getSet(locals.studio));
