import { answer } from '$lib/server/answer';
import { getSwitching } from '$lib/server/switching';

export const GET = ({ locals, params }) => answer(() => getSwitching(locals.studio, params.id));
