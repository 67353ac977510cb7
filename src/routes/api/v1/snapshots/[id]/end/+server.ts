import { answer, body } from '$lib/server/answer';
import { endSnapshot, endSnapshotSchema } from '$lib/server/snapshots';

export const POST = (event) =>
	answer(async () =>
		endSnapshot(event.locals.studio, event.params.id, (await body(event, endSnapshotSchema)).tookMs)
	);
