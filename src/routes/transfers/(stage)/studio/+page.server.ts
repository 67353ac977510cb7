import { backupCandidates } from '$lib/server/snapshots';

export const load = ({ locals }) => backupCandidates(locals.studio);
