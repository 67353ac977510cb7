import { Problem } from '../core/problem';
import { targetListSchema, type TargetList } from '../core/profile';
import { uniqueId } from '../core/unique-id';
import type { Studio } from './db/connection';
import { getDevice, listDevices } from './gear';
import { profileOrNull } from './profiles';

/** Devices of which a profile says what they can be told. */
export const toldDevices = async (studio: Studio): Promise<{ id: string; name: string }[]> =>
	(await listDevices(studio))
		.filter(({ profileId }) => (profileOrNull(studio, profileId)?.targets ?? []).length > 0)
		.map(({ id, name }) => ({ id, name }));

/**
 * What a device can be told, on the channel that it is set to, as a list for controller maps.
 * @throws Problem `device.not-found`, `targets.not-found` where its profile says nothing of it
 */
export async function deviceTargets(studio: Studio, id: string): Promise<TargetList> {
	const device = await getDevice(studio, id);
	const targets = profileOrNull(studio, device.profileId)?.targets ?? [];
	if (targets.length === 0)
		throw new Problem(
			'targets.not-found',
			`No profile says what “${device.name}” can be told.`,
			'Bring its list as a file: a .midnam, a CSV, or a targets file.'
		);
	const midi = device.ports.filter(({ connector }) => /^(din|trs|usb)/.test(connector));
	return targetListSchema.parse({
		format: 'silent-drawer.targets',
		version: 1,
		id: uniqueId(device.name, new Set(), 'device'),
		name: device.name,
		whose: 'device',
		dinOnly: midi.length > 0 && midi.every(({ connector }) => !connector.startsWith('usb')),
		channels: device.channel === null ? [] : [device.channel],
		targets
	});
}
