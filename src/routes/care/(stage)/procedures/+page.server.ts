import { listDevices } from '$lib/server/gear';
import { listProcedures } from '$lib/server/procedures';
import { listRuns } from '$lib/server/procedure-runs';

export async function load({ locals }) {
	const [procedures, runs, devices] = await Promise.all([
		listProcedures(locals.studio),
		listRuns(locals.studio),
		listDevices(locals.studio)
	]);
	return {
		procedures: procedures.map(({ procedure: { id, title, about, steps, back }, own }) => ({
			id,
			title,
			about,
			own,
			back,
			steps: steps.length,
			gates: steps.filter(({ by }) => by === 'gate').length
		})),
		runs,
		devices: devices.map(({ id, name }) => ({ id, name }))
	};
}
