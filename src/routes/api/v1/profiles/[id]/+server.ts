import { answer } from '$lib/server/answer';
import { currentProfile } from '$lib/server/profiles';

export const GET = ({ params }) => answer(async () => currentProfile(params.id));
