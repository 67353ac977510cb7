import { answer } from '$lib/server/answer';
import { storedLine } from '$lib/server/contact';
import { getDevice } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';

export const GET = ({ locals, params }) =>
	answer(async () => {
		const device = await getDevice(locals.studio, params.id);
		const profile = profileOrNull(locals.studio, device.profileId);
		const { way, readable } = await storedLine(locals.studio, device, profile);
		return { out: way?.out ?? null, in: way?.in ?? null, readable };
	});
