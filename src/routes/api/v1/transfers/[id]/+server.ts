import { answer } from '$lib/server/answer';
import { getTransfer } from '$lib/server/transfers';

export const GET = ({ locals, params }) => answer(() => getTransfer(locals.studio, params.id));
