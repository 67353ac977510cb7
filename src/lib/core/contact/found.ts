import type { Device, PresentPort, RememberedPort } from '../gear';
import type { Profile } from '../profile';
import { hostWays, matchRoll, portName, indexRig, type Rig, type RollEntry } from '../rig';
import type { Heard } from './seek';
import { knownSockets } from './sockets';

/** What is known of the studio when somebody answers. */
export interface Surroundings {
	devices: readonly Device[];
	rig: Rig;
	profiles: readonly Profile[];
	remembered: readonly RememberedPort[];
	present: readonly PresentPort[];
}

/** One that answered, with who it is likeliest to be. */
export interface Found {
	heard: Heard;
	entry: RollEntry;
	/** What taking it would note that is not noted yet; empty where it is noted just so. */
	news: ('device' | 'cables' | 'ports' | 'device ID')[];
}

/** “Ferry 8 Out 3” where a port is known as a socket, else the computer's own name for it. */
export function socketName(around: Surroundings, port: PresentPort): string {
	const key = knownSockets(around.remembered, around.present).get(port);
	const placed = key === undefined ? undefined : indexRig(around.rig).ports.get(key);
	return placed ? portName(placed) : port.name;
}

/** Who those are that answered, and what of it the catalogue and the wiring do not say yet. */
export function whoIsFound(heard: readonly Heard[], around: Surroundings): Found[] {
	const sockets = knownSockets(around.remembered, around.present);
	const ways = new Map(hostWays(around.rig).map((way) => [way.device, way]));
	const ids = new Map(around.rig.settings.map(({ device, deviceId }) => [device, deviceId ?? null]));
	const { entries } = matchRoll(
		heard.map(({ out, identity, units }) => ({ port: socketName(around, out), answer: { identity, units } })),
		around.devices
			.filter(({ archivedAt }) => archivedAt === null)
			.map(({ id, name, profileId, deviceId }) => ({
				id,
				name,
				profileId,
				deviceId: ids.get(id) ?? deviceId,
				port: ways.get(id)?.out?.name ?? null
			})),
		around.profiles
	);
	return heard.map((one, i): Found => {
		const entry = entries[i];
		const known = sockets.has(one.out) && sockets.has(one.in);
		if (!entry.device)
			return { heard: one, entry, news: ['device', 'cables', ...(known ? [] : (['ports'] as const))] };
		const way = ways.get(entry.device.id);
		const cabled = known && way?.out?.port === sockets.get(one.out) && way?.in?.port === sockets.get(one.in);
		const profile = around.profiles.find(({ id }) => id === entry.profileId);
		const named =
			profile?.addressing.deviceId === undefined ||
			(ids.get(entry.device.id) ?? profile.addressing.deviceId.default) === one.identity.deviceId;
		return {
			heard: one,
			entry,
			news: [
				...(known ? [] : (['ports'] as const)),
				...(cabled ? [] : (['cables'] as const)),
				...(named ? [] : (['device ID'] as const))
			]
		};
	});
}
