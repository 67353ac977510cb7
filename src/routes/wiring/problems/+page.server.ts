import { getPairings } from '$lib/server/pairings';

export const load = async ({ locals }) => ({ pairings: (await getPairings(locals.studio)).document });
