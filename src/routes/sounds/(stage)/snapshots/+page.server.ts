import { listSnapshots } from '$lib/server/snapshots';

export const load = async ({ locals }) => ({ snapshots: await listSnapshots(locals.studio) });
