import { answer } from '$lib/server/answer';
import { abandonTransfer } from '$lib/server/unfinished';

/** Sent by a page that is being closed in mid-transfer. */
export const POST = ({ locals, params }) => answer(() => abandonTransfer(locals.studio, params.id));
