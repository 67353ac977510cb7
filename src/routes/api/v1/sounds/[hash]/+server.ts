import { answer } from '$lib/server/answer';
import { lifeOfSound } from '$lib/server/sounds';

export const GET = ({ locals, params }) => answer(() => lifeOfSound(locals.studio, params.hash));
