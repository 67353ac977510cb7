import { Problem } from '../core/problem';
import { decodeDump, type Profile } from '../core/profile';
import { spansOf, type Version } from '../core/drawer';
import type { Studio } from './db/connection';
import { getVersion, openVersion, readingOf } from './drawer';
import { getDevice } from './gear';
import { isLive, takeIn } from './knowing';
import { currentProfile, keepRevision, profileRevision } from './profiles';
import { keepRecords } from './store/records';
import { sealVersion } from './store/seals';
import { updateVersion } from './store/versions';
import { noteMoments } from './version-moves';

/**
 * Reads a version again with the newest revision of its device's profile. Its bytes never change; what they are read
 * as does. A revision that reads fewer messages than the one before is refused.
 * @throws Problem `version.no-profile`, `version.reads-less`
 */
export async function rereadVersion(studio: Studio, id: string): Promise<Version> {
	const version = await getVersion(studio, id);
	const device = await getDevice(studio, version.deviceId);
	if (!device.profileId)
		throw new Problem('version.no-profile', `“${device.name}” has no profile.`, 'Choose or write one first.');
	const profile = currentProfile(studio, device.profileId);
	const before = version.profileId
		? await profileRevision(studio, version.profileId, version.profileRevision!)
		: null;
	const { messages, slots, seen } = await openVersion(studio, id, profile);
	const read = (as: Profile) => decodeDump(as, messages).messages.filter((message) => message.read).length;
	const [readNow, readBefore] = [read(profile), before ? read(before) : 0];
	if (readNow < readBefore || slots.length === 0)
		throw new Problem(
			'version.reads-less',
			`Revision ${profile.revision} of the profile reads ${readNow} of ${messages.length} messages; ${before ? `revision ${before.revision} reads ${readBefore}` : 'they are kept raw'}.`,
			'The version stays as it was read before. Correct the profile and try again.'
		);
	await studio.write(async (transaction) => {
		const reading = {
			profileId: profile.id,
			profileRevision: await keepRevision(studio, profile, transaction),
			slots: slots.length,
			coverage: spansOf(slots)
		};
		await keepRecords(studio, profile.id, seen, transaction);
		await updateVersion(studio, id, reading, transaction);
		await sealVersion(studio, id, transaction);
		// What was raw until now shows sounds, and what its device held when it was read.
		if (before) return;
		const { world } = version;
		const now = { ...version, ...reading };
		if (isLive(world) && version.question === null)
			await takeIn(studio, readingOf({ ...now, world }, seen, version.messages), transaction);
		else await noteMoments(studio, version.deviceId, { version: now, profile, seen }, transaction);
	});
	return getVersion(studio, id);
}
