import { orError } from '$lib/server/answer';
import { compareSnapshots, getSnapshot, listSnapshots, snapshotItems } from '$lib/server/snapshots';

/** `?with=` is another snapshot, to be compared with. */
export async function load({ locals, params, url }) {
	const snapshot = await orError(getSnapshot(locals.studio, params.id));
	const withId = url.searchParams.get('with');
	return {
		snapshot,
		items: await snapshotItems(locals.studio, params.id),
		others: (await listSnapshots(locals.studio)).filter(({ id }) => id !== params.id),
		withId,
		differences: withId ? await orError(compareSnapshots(locals.studio, withId, params.id)) : null
	};
}
