import { liveWorldSchema } from '$lib/core/drawer';
import { answer } from '$lib/server/answer';
import { backupCandidates } from '$lib/server/snapshots';

export const GET = ({ locals, url }) =>
	answer(() =>
		backupCandidates(
			locals.studio,
			liveWorldSchema.default(locals.studio.world).parse(url.searchParams.get('world') ?? undefined)
		)
	);
