import { tryOnDump, trialsTogether, type DeviceTrial, type Transfer } from '../core/drawer';
import { areaOf, slotLabel, type Profile } from '../core/profile';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { getDevice } from './gear';
import { localDay } from './local-time';
import { profileOrNull } from './profiles';
import { getRecord } from './store/records';
import { listTransfers } from './transfers';

/** So many of a device are shown, the newest first. */
const SHOWN = 5;

async function trialOf(studio: Studio, profile: Profile, transfer: Transfer): Promise<DeviceTrial | null> {
	const slot = transfer.wanted?.find(({ rewrite }) => rewrite);
	const area = slot && profile.areas.find(({ id }) => id === slot.area);
	if (!slot || !area || slot.index >= area.slots) return null;
	const ids = [transfer.safetyVersionId, transfer.versionId].filter((id) => id !== null);
	const opened = await Promise.all(ids.map((id) => openVersion(studio, id)));
	const { dumps, messages, read, rebuilt } = trialsTogether(
		opened.map((version) => tryOnDump(version.profile ?? profile, version))
	);
	const [version] = opened.map((one) => one.version);
	// Both were asked for: before it was written, and behind it.
	const isWhole = transfer.status === 'verified' && opened.length === 2;
	return {
		transferId: transfer.id,
		at: transfer.startedAt,
		world: transfer.world,
		status: transfer.status,
		slot: `${areaOf(profile, area.id).slotWord} ${slotLabel(area.labels, slot.index)}`,
		name: (await getRecord(studio, slot.record))?.name ?? null,
		revision: version?.profileRevision ?? null,
		reason: transfer.reason?.says ?? null,
		report: isWhole
			? {
					at: localDay(transfer.startedAt),
					firmware: version.firmware === null ? [] : [version.firmware],
					bench: transfer.world === 'bench',
					dumps,
					messages,
					read,
					rebuilt,
					onDevice: true
				}
			: null
	};
}

/** What a device's profile was tried by on the device itself, the newest first. @throws Problem `device.not-found` */
export async function trialsOnDevice(studio: Studio, deviceId: string): Promise<DeviceTrial[]> {
	const profile = profileOrNull(studio, (await getDevice(studio, deviceId)).profileId);
	if (!profile) return [];
	const tried = (await listTransfers(studio, { deviceId })).filter(
		({ wanted, endedAt }) => endedAt !== null && wanted?.some(({ rewrite }) => rewrite)
	);
	const trials = await Promise.all(tried.slice(0, SHOWN).map((each) => trialOf(studio, profile, each)));
	return trials.filter((trial) => trial !== null);
}
