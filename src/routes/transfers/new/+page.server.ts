import { error } from '@sveltejs/kit';
import { openVersion } from '$lib/server/drawer';
import { orError } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { currentProfile } from '$lib/server/profiles';

/** `?device=` begins a capture, `?version=` a restore; `&slots=area:index,…` chooses slots, `&area=` an area. */
export async function load({ locals, url }) {
	const versionId = url.searchParams.get('version');
	const version = versionId ? await orError(openVersion(locals.studio, versionId)) : null;
	const deviceId = url.searchParams.get('device') ?? version?.version.deviceId;
	if (!deviceId)
		error(404, {
			message: 'Which device is it about?',
			remedy: 'Choose one in the list of transfers.',
			code: 'transfer.no-device'
		});
	const device = await orError(getDevice(locals.studio, deviceId));
	if (!device.profileId)
		error(422, {
			message: `“${device.name}” has no profile, so the app does not know how to ask it.`,
			remedy: 'Choose a profile on its Facts page, or drop a dump file on it.',
			code: 'device.no-profile'
		});
	const chosen = (url.searchParams.get('slots') ?? '')
		.split(',')
		.map((text) => text.split(':'))
		.filter(([area, index]) => area && /^\d+$/.test(index ?? ''))
		.map(([area, index]) => ({ area, index: Number(index) }));
	return {
		device,
		profile: currentProfile(locals.studio, device.profileId),
		version: version?.version ?? null,
		slots: version?.slots.map(({ area, index, label, name }) => ({ area, index, label, name })) ?? [],
		chosen,
		area: url.searchParams.get('area')
	};
}
