import { getPairings } from '$lib/server/pairings';
import { getPlan, listPlans } from '$lib/server/plans';

/** The plan that the address names, else the newest. */
export async function load({ locals: { studio }, url }) {
	const plans = await listPlans(studio);
	const asked = Number(url.searchParams.get('plan'));
	const shown = plans.find(({ id }) => id === asked) ?? plans.at(-1);
	return {
		kept: shown ? await getPlan(studio, String(shown.id)) : null,
		pairings: (await getPairings(studio)).document
	};
}
