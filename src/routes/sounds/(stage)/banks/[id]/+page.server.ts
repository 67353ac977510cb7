import { orError } from '$lib/server/answer';
import { getBank } from '$lib/server/banks';
import { listVersions } from '$lib/server/drawer';
import { getDevice } from '$lib/server/gear';
import { currentProfile } from '$lib/server/profiles';
import { receiversOf } from '$lib/server/receivers';

export async function load({ locals, params }) {
	const bank = await orError(getBank(locals.studio, params.id));
	const profile = currentProfile(locals.studio, bank.document.profileId);
	const versions = await listVersions(locals.studio, bank.deviceId);
	return {
		bank,
		profile,
		device: await getDevice(locals.studio, bank.deviceId),
		alike: await receiversOf(locals.studio, profile, bank.document.area),
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
