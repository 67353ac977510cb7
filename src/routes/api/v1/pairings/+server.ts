import { answer } from '$lib/server/answer';
import { getPairings } from '$lib/server/pairings';

export const GET = ({ locals }) => answer(() => getPairings(locals.studio));
