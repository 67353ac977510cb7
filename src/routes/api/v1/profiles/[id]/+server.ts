import { answer } from '$lib/server/answer';
import { currentProfile } from '$lib/server/profiles';

export const GET = ({ locals, params }) => answer(async () => currentProfile(locals.studio, params.id));
