import { getDevice } from '$lib/server/gear';
import { orError } from '$lib/server/answer';
import { shippedProfiles } from '$lib/server/profiles';

export async function load({ locals, params }) {
	const device = await orError(getDevice(locals.studio, params.device));
	const profile = shippedProfiles().find(({ id }) => id === device.profileId) ?? null;
	return { device, profile };
}
