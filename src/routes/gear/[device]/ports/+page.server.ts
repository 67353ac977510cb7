import { listUnits } from '$lib/server/bench';
import { listDevices } from '$lib/server/gear';

export async function load({ locals, params }) {
	const [units, devices] = await Promise.all([listUnits(locals.studio), listDevices(locals.studio)]);
	return {
		units: units.map(({ id, name, profileId }) => ({
			id,
			name,
			profileId,
			taken: devices.find((device) => device.benchUnit === id && device.id !== params.device)?.name ?? null
		}))
	};
}
