import { answer } from '$lib/server/answer';
import { endSwitching } from '$lib/server/switching';

export const POST = ({ locals, params }) => answer(() => endSwitching(locals.studio, params.id));
