import { hostWays } from '$lib/core/rig';
import { answer } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { readStudioRig } from '$lib/server/rig';

export const GET = ({ locals, params }) =>
	answer(async () => {
		await getDevice(locals.studio, params.id);
		const { rig } = await readStudioRig(locals.studio);
		const way = hostWays(rig).find(({ device }) => device === params.id);
		return { out: way?.out ?? null, in: way?.in ?? null };
	});
