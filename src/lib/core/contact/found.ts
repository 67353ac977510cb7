import type { Device, PresentPort, RememberedPort } from '../gear';
import type { Profile } from '../profile';
import { answersRoll } from '../transfer';
import {
	hostWays,
	indexRig,
	matchRoll,
	portName,
	type HostWay,
	type Rig,
	type RollDevice,
	type RollEntry
} from '../rig';
import type { Heard } from './seek';
import { knownSockets, portKey } from './sockets';

/** What is known of the studio when somebody answers. */
export interface Surroundings {
	devices: readonly Device[];
	rig: Rig;
	profiles: readonly Profile[];
	remembered: readonly RememberedPort[];
	present: readonly PresentPort[];
}

/** What a finding would note that is not noted yet. */
export type News = 'device' | 'cables' | 'ports' | 'device ID' | 'unit' | 'profile';

/** One that answered, with who it is likeliest to be. */
export interface Found {
	heard: Heard;
	entry: RollEntry;
	/** Empty where it is noted just so. */
	news: News[];
}

/** A device that was expected at a port that was asked, and did not answer. */
export interface Silent {
	device: { id: string; name: string };
	/** Where it is noted. */
	at: string;
}

/** “Ferry 8 Out 3” where a port is known as a socket, else the computer's own name for it. */
export function socketName(
	{ rig, remembered, present }: Pick<Surroundings, 'rig' | 'remembered' | 'present'>,
	port: PresentPort
): string {
	const key = knownSockets(remembered, present).get(portKey(port));
	const placed = key === undefined ? undefined : indexRig(rig).ports.get(key);
	return placed ? portName(placed) : port.name;
}

const inUse = ({ devices }: Surroundings) => devices.filter(({ archivedAt }) => archivedAt === null);

const wireIds = (rig: Rig) => new Map(rig.settings.map(({ device, deviceId }) => [device, deviceId ?? null]));

/** Whether it is another variant of its model than was noted. */
const newProfile = (around: Surroundings, { device, profileId }: RollEntry): News[] =>
	around.devices.find(({ id }) => id === device!.id)!.profileId === profileId ? [] : ['profile'];

/** Whether the ID that answered is the one that is noted. */
function sameId(around: Surroundings, entry: RollEntry, heard: Heard): boolean {
	const addressed = around.profiles.find(({ id }) => id === entry.profileId)?.addressing.deviceId;
	if (!addressed) return true;
	return (wireIds(around.rig).get(entry.device!.id) ?? addressed.default) === heard.identity.deviceId;
}

/** Matches answers to the catalogue, each device expected at one port. */
function match(
	heard: readonly Heard[],
	around: Surroundings,
	portOf: (port: PresentPort) => string,
	expectedAt: (device: Device) => string | null
): RollEntry[] {
	const ids = wireIds(around.rig);
	return matchRoll(
		heard.map(({ out, identity, units }) => ({ port: portOf(out), answer: { identity, units } })),
		inUse(around).map((device): RollDevice => ({
			id: device.id,
			name: device.name,
			profileId: device.profileId,
			deviceId: ids.get(device.id) ?? device.deviceId,
			port: expectedAt(device)
		})),
		around.profiles
	).entries;
}

const answersToAll = (around: Surroundings, device: Device): boolean => {
	const profile = around.profiles.find(({ id }) => id === device.profileId);
	return profile !== undefined && answersRoll(profile);
};

/** Who those are that answered at the computer's ports, and what of it the catalogue and the wiring do not say yet. */
export function whoIsFound(heard: readonly Heard[], around: Surroundings): Found[] {
	const sockets = knownSockets(around.remembered, around.present);
	const ways = new Map(hostWays(around.rig).map((way) => [way.device, way]));
	const entries = match(
		heard,
		around,
		(port) => socketName(around, port),
		({ id }) => ways.get(id)?.out?.name ?? null
	);
	const goes = (way: HostWay | undefined, one: Heard) =>
		way?.out?.port === sockets.get(portKey(one.out)) && way?.in?.port === sockets.get(portKey(one.in));
	return heard.map((one, i): Found => {
		const entry = entries[i];
		const known = sockets.has(portKey(one.out)) && sockets.has(portKey(one.in));
		const ports: News[] = known ? [] : ['ports'];
		if (!entry.device) return { heard: one, entry, news: ['device', 'cables', ...ports] };
		const cabled = known && goes(ways.get(entry.device.id), one);
		return {
			heard: one,
			entry,
			news: [
				...newProfile(around, entry),
				...ports,
				...(cabled ? [] : (['cables'] as const)),
				...(sameId(around, entry, one) ? [] : (['device ID'] as const))
			]
		};
	});
}

/** The same on the bench, where a device is plugged in to a unit instead of a socket; units are ports by their id. */
export function whoIsOnBench(heard: readonly Heard[], around: Surroundings): Found[] {
	const names = new Map(heard.map(({ out }) => [out.id, out.name]));
	const entries = match(
		heard,
		around,
		({ name }) => name,
		({ benchUnit }) => (benchUnit === null ? null : (names.get(benchUnit) ?? 'another unit'))
	);
	return heard.map((one, i): Found => {
		const entry = entries[i];
		if (!entry.device) return { heard: one, entry, news: ['device', 'unit'] };
		const device = around.devices.find(({ id }) => id === entry.device!.id)!;
		return {
			heard: one,
			entry,
			news: [
				...newProfile(around, entry),
				...(device.benchUnit === one.out.id ? [] : (['unit'] as const)),
				...(sameId(around, entry, one) ? [] : (['device ID'] as const))
			]
		};
	});
}

/** Devices that say who they are when asked, are noted at a port that was asked, and said nothing. */
export function whoIsSilent(
	found: readonly Found[],
	asked: readonly PresentPort[],
	around: Surroundings,
	world: 'bench' | 'hardware'
): Silent[] {
	const answered = new Set(found.map(({ entry }) => entry.device?.id));
	const names = new Set(asked.map((port) => (world === 'bench' ? port.id : socketName(around, port))));
	const ways = new Map(hostWays(around.rig).map((way) => [way.device, way]));
	return inUse(around).flatMap((device) => {
		if (answered.has(device.id) || !answersToAll(around, device)) return [];
		const noted = world === 'bench' ? device.benchUnit : (ways.get(device.id)?.out?.name ?? null);
		if (noted === null || !names.has(noted)) return [];
		const at = world === 'bench' ? asked.find(({ id }) => id === noted)!.name : noted;
		return [{ device: { id: device.id, name: device.name }, at }];
	});
}
