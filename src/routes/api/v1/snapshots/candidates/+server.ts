import { answer } from '$lib/server/answer';
import { backupCandidates } from '$lib/server/snapshots';

export const GET = ({ locals }) => answer(() => backupCandidates(locals.studio));
