import { answer, body } from '$lib/server/answer';
import { beginSnapshot, beginSnapshotSchema, listSnapshots } from '$lib/server/snapshots';

export const GET = ({ locals }) => answer(() => listSnapshots(locals.studio));

export const POST = (event) =>
	answer(async () => beginSnapshot(event.locals.studio, await body(event, beginSnapshotSchema)), 201);
