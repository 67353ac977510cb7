import { rigOrderSchema } from '$lib/core/rig';
import { answer, body } from '$lib/server/answer';
import { changeStudioRig } from '$lib/server/rig';

export const POST = (event) =>
	answer(async () => {
		const { changes, revision, says } = await body(event, rigOrderSchema);
		return changeStudioRig(event.locals.studio, changes, revision, says);
	});
