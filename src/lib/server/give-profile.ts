import { deviceSchema, mergeFacts, type Device, type DeviceFacts } from '../core/gear';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { listVersions } from './drawer';
import { reviseDevice } from './gear';
import { rereadVersion } from './reread';

/** What became of the versions that a device kept raw, once it had a profile. */
export interface ReadAgain {
	read: number;
	/** Those that stay raw, with the first reason why. */
	raw: number;
	why: string | null;
}

const inWords = (value: unknown): string =>
	value === null || value === ''
		? 'nothing'
		: typeof value === 'object'
			? JSON.stringify(value)
			: String(value);

/** What two changed of one device. @throws Problem `device.conflict`, with the conflicts, where both changed the same */
function broughtTogether(was: DeviceFacts, mine: DeviceFacts, theirs: DeviceFacts): DeviceFacts {
	const { facts, conflicts } = mergeFacts(was, mine, theirs);
	if (conflicts.length === 0) return facts;
	throw new Problem(
		'device.conflict',
		`Meanwhile somebody changed ${conflicts.map((each) => `“${each.field}” to “${inWords(each.theirs)}”`).join(', ')}. Nothing was overwritten.`,
		'Look at what you typed, and save again to have it so all the same.',
		{ conflicts }
	);
}

/**
 * Changes what is noted of a device. One that gets a profile has its raw versions read with it at once: their bytes stay
 * as they are, and those that the profile does not read stay raw.
 * @param was what was seen before it was changed: what others changed since is kept
 * @throws Problem `device.not-found`; `device.conflict` where both changed the same
 */
export async function saveDevice(
	studio: Studio,
	id: string,
	given: DeviceFacts,
	was?: DeviceFacts
): Promise<{ device: Device; again: ReadAgain | null }> {
	const { before, device } = await reviseDevice(studio, id, (now) =>
		was ? broughtTogether(was, given, deviceSchema.parse(now)) : given
	);
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
