import { listUnits } from '$lib/server/bench';
import { getDevice, listDevices } from '$lib/server/gear';
import { orError } from '$lib/server/answer';
import { benchModelOf, profileOrNull } from '$lib/server/profiles';

export async function load({ locals, params }) {
	const [units, devices] = await Promise.all([listUnits(locals.studio), listDevices(locals.studio)]);
	const { profileId } = await orError(getDevice(locals.studio, params.device));
	const profile = profileOrNull(locals.studio, profileId);
	return {
		/** What it is on the bench; null where nothing there can be it. */
		model: profile && benchModelOf(profile),
		units: units.map(({ id, name, profileId }) => ({
			id,
			name,
			profileId,
			taken: devices.find((device) => device.benchUnit === id && device.id !== params.device)?.name ?? null
		}))
	};
}
