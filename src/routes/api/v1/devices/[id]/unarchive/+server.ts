import { answer } from '$lib/server/answer';
import { unarchiveDevice } from '$lib/server/gear';

export const POST = ({ locals, params }) => answer(() => unarchiveDevice(locals.studio, params.id));
