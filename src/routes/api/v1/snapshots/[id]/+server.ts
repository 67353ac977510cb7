import { answer } from '$lib/server/answer';
import { getSnapshot, snapshotItems } from '$lib/server/snapshots';

export const GET = ({ locals, params }) =>
	answer(async () => ({
		snapshot: await getSnapshot(locals.studio, params.id),
		items: await snapshotItems(locals.studio, params.id)
	}));
