import { answer } from '$lib/server/answer';
import { alikeTo } from '$lib/server/alike';

export const GET = ({ locals, params }) => answer(() => alikeTo(locals.studio, params.hash));
