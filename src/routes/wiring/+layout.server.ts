import { readStudioRig } from '$lib/server/rig';
import { listPlans } from '$lib/server/plans';
import { nextSteps } from '$lib/server/store/wiring-steps';

export async function load({ locals: { studio } }) {
	const [rig, steps, plans] = await Promise.all([
		readStudioRig(studio),
		nextSteps(studio),
		listPlans(studio)
	]);
	return { ...rig, steps, plans };
}
