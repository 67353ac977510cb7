import { answer } from '$lib/server/answer';
import { getFloor } from '$lib/server/floor';

export const GET = ({ locals }) => answer(() => getFloor(locals.studio));
