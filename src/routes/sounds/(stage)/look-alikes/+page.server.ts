import { orError } from '$lib/server/answer';
import { knownProfiles } from '$lib/server/profiles';
import { countRecords } from '$lib/server/store/records';
import { familiesOf } from '$lib/server/sounds';
import { listDevices } from '$lib/server/gear';

/** `?profile=&area=` choose the model, `&parameters=` how many parameters may differ. */
export async function load({ locals, url }) {
	const used = new Set(
		(await listDevices(locals.studio, { archived: true })).map(({ profileId }) => profileId)
	);
	const models = knownProfiles(locals.studio)
		.filter(({ id }) => used.has(id))
		.flatMap((profile) =>
			profile.areas
				.filter(({ record, slots }) => slots > 1 && profile.records[record].parameters.length > 0)
				.map((area) => ({
					profileId: profile.id,
					area: area.id,
					title: `${profile.maker} ${profile.model}, ${area.name.toLowerCase()}`
				}))
		);
	// The model with most sounds comes first.
	const counts = await countRecords(locals.studio);
	const kept = (model: { profileId: string; area: string }) =>
		counts.find(({ profileId, area }) => profileId === model.profileId && area === model.area)?.n ?? 0;
	models.sort((a, b) => kept(b) - kept(a));
	const chosen =
		models.find(
			({ profileId, area }) =>
				profileId === url.searchParams.get('profile') && area === url.searchParams.get('area')
		) ?? models[0];
	const parameters = Math.min(6, Math.max(0, Number(url.searchParams.get('parameters') ?? 3) || 0));
	return {
		models,
		chosen: chosen ?? null,
		parameters,
		result: chosen
			? await orError(familiesOf(locals.studio, chosen.profileId, chosen.area, { parameters }))
			: null
	};
}
