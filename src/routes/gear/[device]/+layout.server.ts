import { getDevice } from '$lib/server/gear';
import { orError } from '$lib/server/answer';
import { storedLine } from '$lib/server/contact';
import { knownProfiles } from '$lib/server/profiles';

export async function load({ locals, params }) {
	const device = await orError(getDevice(locals.studio, params.device));
	const profile = knownProfiles(locals.studio).find(({ id }) => id === device.profileId) ?? null;
	return { device, profile, line: await storedLine(locals.studio, device, profile) };
}
