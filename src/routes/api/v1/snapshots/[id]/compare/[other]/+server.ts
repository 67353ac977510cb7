import { answer } from '$lib/server/answer';
import { compareSnapshots } from '$lib/server/snapshots';

export const GET = ({ locals, params }) =>
	answer(() => compareSnapshots(locals.studio, params.other, params.id));
