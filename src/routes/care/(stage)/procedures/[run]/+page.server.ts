import { targetOf } from '$lib/core/transfer';
import { orError } from '$lib/server/answer';
import { storedLine } from '$lib/server/contact';
import { getDevice } from '$lib/server/gear';
import { getRun } from '$lib/server/procedure-runs';
import { profileOrNull } from '$lib/server/profiles';

export async function load({ locals, params }) {
	const run = await orError(getRun(locals.studio, params.run));
	if (!run.device) return { run, line: null, profile: null, target: null };
	const device = await getDevice(locals.studio, run.device.id);
	const profile = profileOrNull(locals.studio, device.profileId);
	return {
		run,
		profile,
		line: await storedLine(locals.studio, device, profile),
		target: targetOf(device, profile)
	};
}
