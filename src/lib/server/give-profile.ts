import type { Device, DeviceFacts } from '../core/gear';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { listVersions } from './drawer';
import { getDevice, updateDevice } from './gear';
import { rereadVersion } from './reread';

/** What became of the versions that a device kept raw, once it had a profile. */
export interface ReadAgain {
	read: number;
	/** Those that stay raw, with the first reason why. */
	raw: number;
	why: string | null;
}

/**
 * Changes what is noted of a device. One that gets a profile has its raw versions read with it at once: their bytes stay
 * as they are, and those that the profile does not read stay raw.
 * @throws Problem `device.not-found`
 */
export async function saveDevice(
	studio: Studio,
	id: string,
	facts: DeviceFacts
): Promise<{ device: Device; again: ReadAgain | null }> {
	const before = await getDevice(studio, id);
	const device = await updateDevice(studio, id, facts);
	if (device.profileId === null || device.profileId === before.profileId) return { device, again: null };
	const again: ReadAgain = { read: 0, raw: 0, why: null };
	const versions = (await listVersions(studio, id)).filter(({ profileId }) => profileId === null);
	// The oldest first, as they were read.
	for (const version of versions.toReversed())
		try {
			await rereadVersion(studio, version.id);
			again.read++;
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			again.raw++;
			again.why ??= error.message;
		}
	return { device, again: versions.length > 0 ? again : null };
}
