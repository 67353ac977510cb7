import { Problem } from '../core/problem';
import { decodeDump } from '../core/profile';
import { spansOf, type Version } from '../core/drawer';
import type { Studio } from './db/connection';
import { getVersion, openVersion, readingOf } from './drawer';
import { getDevice } from './gear';
import { hashOf } from './hash';
import { isLive, takeIn } from './knowing';
import { currentProfile, keepRevision } from './profiles';
import { keepRecords } from './store/records';
import { updateVersion } from './store/versions';
import { noteMoments } from './version-moves';

/** What a version shows that was raw until now: its sounds, and what its device held when it was read. */
async function learnFrom(studio: Studio, id: string): Promise<void> {
	const { version, profile, seen } = await openVersion(studio, id);
	const { world } = version;
	await studio.write(async (transaction) => {
		if (isLive(world) && version.question === null)
			await takeIn(studio, readingOf({ ...version, world }, seen, version.messages), transaction);
		else await noteMoments(studio, version.deviceId, { version, profile, seen }, transaction);
	});
}

/**
 * Reads a version again with the newest revision of its device's profile. Its bytes never change; what they are read
 * as does. A revision that reads fewer messages than the one before is refused.
 * @throws Problem `version.no-profile`, `version.reads-less`
 */
export async function rereadVersion(studio: Studio, id: string): Promise<Version> {
	const { version, profile: before, messages } = await openVersion(studio, id);
	const device = await getDevice(studio, version.deviceId);
	if (!device.profileId)
		throw new Problem('version.no-profile', `“${device.name}” has no profile.`, 'Choose or write one first.');
	const profile = currentProfile(studio, device.profileId);
	const count = (dump: ReturnType<typeof decodeDump>) => dump.messages.filter(({ read }) => read).length;
	const now = decodeDump(profile, messages);
	const readBefore = before ? count(decodeDump(before, messages)) : 0;
	if (count(now) < readBefore || now.slots.length === 0)
		throw new Problem(
			'version.reads-less',
			`Revision ${profile.revision} of the profile reads ${count(now)} of ${messages.length} messages; ${before ? `revision ${before.revision} reads ${readBefore}` : 'they are kept raw'}.`,
			'The version stays as it was read before. Correct the profile and try again.'
		);
	const slots = now.slots.map((slot) => ({ slot, record: hashOf(slot.bytes) }));
	await studio.write(async (transaction) => {
		const revision = await keepRevision(studio, profile, transaction);
		await keepRecords(studio, profile.id, slots, transaction);
		await updateVersion(
			studio,
			id,
			{
				profileId: profile.id,
				profileRevision: revision,
				slots: slots.length,
				coverage: spansOf(now.slots)
			},
			transaction
		);
	});
	if (!before) await learnFrom(studio, id);
	return getVersion(studio, id);
}
