import { answer } from '$lib/server/answer';
import { wantedOf } from '$lib/server/transfers';

export const GET = ({ locals, params }) => answer(() => wantedOf(locals.studio, params.id));
