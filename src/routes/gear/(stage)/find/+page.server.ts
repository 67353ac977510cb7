import { surroundingsOf } from '$lib/server/surroundings';

export const load = ({ locals }) => surroundingsOf(locals.studio);
