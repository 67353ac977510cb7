import { knownProfiles } from '$lib/server/profiles';

export const load = ({ locals }) => ({ profiles: knownProfiles(locals.studio) });
