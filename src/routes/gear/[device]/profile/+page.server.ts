import { orError } from '$lib/server/answer';
import { trialsOnDevice } from '$lib/server/device-trials';

export async function load({ locals, params }) {
	return { trials: await orError(trialsOnDevice(locals.studio, params.device)) };
}
