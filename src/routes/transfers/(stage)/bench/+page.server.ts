import { listUnits } from '$lib/server/bench';
import { listDevices, simulatedProfiles } from '$lib/server/gear';
import { benchProfile } from '$lib/server/profiles';

export async function load({ locals }) {
	const [units, devices] = await Promise.all([listUnits(locals.studio), listDevices(locals.studio)]);
	return {
		units: units.map(({ id, name, profileId }) => ({
			id,
			name,
			model: benchProfile(profileId).model,
			device: devices.find((device) => device.benchUnit === id)?.name ?? null
		})),
		models: simulatedProfiles().map((id) => ({
			id,
			title: `${benchProfile(id).maker} ${benchProfile(id).model}`
		}))
	};
}
