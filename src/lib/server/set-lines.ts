import { linesKey, type SetLines, type ShowSet } from '../core/scene';
import { storedLine } from './contact';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { profileOrNull } from './profiles';

/** How the devices of a set's instruments are reached. */
export async function linesOfSet(studio: Studio, set: ShowSet): Promise<SetLines> {
	const devices = await listDevices(studio);
	const told: SetLines = {
		of: linesKey(set),
		lines: {},
		asked: {},
		devices: devices.map(({ id, name }) => ({ id, name }))
	};
	for (const { id, device: of } of set.setup.instruments) {
		const device = devices.find((each) => each.id === of);
		if (!device) continue;
		const profile = profileOrNull(studio, device.profileId);
		told.lines[id] = await storedLine(studio, device, profile);
		if (profile?.areas.some(({ playing }) => playing !== undefined))
			told.asked[id] = {
				profile: profile.id,
				deviceId: device.deviceId ?? profile.addressing.deviceId?.default ?? 0,
				channel: device.channel ?? 1
			};
	}
	return told;
}
