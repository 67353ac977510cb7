import { orError } from '$lib/server/answer';
import { getBank } from '$lib/server/banks';
import { listVersions } from '$lib/server/drawer';
import { getDevice, listDevices } from '$lib/server/gear';
import { currentProfile } from '$lib/server/profiles';

export async function load({ locals, params }) {
	const bank = await orError(getBank(locals.studio, params.id));
	const profile = currentProfile(locals.studio, bank.document.profileId);
	const versions = await listVersions(locals.studio, bank.deviceId);
	return {
		bank,
		profile,
		device: await getDevice(locals.studio, bank.deviceId),
		alike: (await listDevices(locals.studio))
			.filter(({ profileId }) => profileId === profile.id)
			.map(({ id, name }) => ({ id, name })),
		versions: versions.map(({ id, title, takenAt }) => ({ id, title, takenAt })),
		/** Whether the device was read again since the bank was begun. */
		newer:
			bank.baseVersionId !== null &&
			versions.some(
				({ id, kind, verified, takenAt }) =>
					verified &&
					kind !== 'imported' &&
					id !== bank.baseVersionId &&
					takenAt > (versions.find((v) => v.id === bank.baseVersionId)?.takenAt ?? '')
			)
	};
}
