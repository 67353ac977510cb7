import { listBanks } from '$lib/server/banks';
import { listDevices } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';

export async function load({ locals }) {
	const devices = await listDevices(locals.studio);
	return {
		banks: (await listBanks(locals.studio)).map(({ document, ...bank }) => ({
			...bank,
			title: document.title,
			used: document.entries.filter((entry) => entry !== null).length,
			slots: document.entries.length,
			device: devices.find(({ id }) => id === bank.deviceId)?.name ?? ''
		})),
		devices: devices.flatMap(({ id, name, profileId }) => {
			const profile = profileOrNull(locals.studio, profileId);
			return profile
				? [
						{
							id,
							name,
							profileId: profile.id,
							areas: profile.areas
								.filter(({ record, slots }) => slots > 1 && profile.records[record].name)
								.map(({ id: area, name: title, slots }) => ({ id: area, title, slots }))
						}
					]
				: [];
		})
	};
}
