import type { Transaction } from 'sequelize';
import { Problem } from '../core/problem';
import {
	applyChanges,
	catalogueIds,
	freeIn,
	freeOut,
	indexRig,
	isWire,
	portName,
	WIRING_CHANGED,
	hostSchema,
	inverses,
	keepPorts,
	rigDeviceOf,
	rigPortId,
	rigSchema,
	wiringSchema,
	type Cable,
	type Host,
	type Rig,
	type RigFile,
	type RigChange,
	type RigDevice
} from '../core/rig';
import type { Studio } from './db/connection';
import type { CableRow, DeviceRow } from './db/models';
import { profileOrNull } from './profiles';
import { contactRows } from './store/contacts';
import { devicesInOrder, updateDeviceRow } from './store/devices';
import { addCable, cableRows, removeCable, rigFacts, setRigFact } from './store/wiring';
import { addStep } from './store/wiring-steps';

/** The studio's wiring, with a number that counts its changes. */
export interface StudioRig {
	rig: Rig;
	revision: number;
}

/** What a device's profile says of it that its wiring depends on. */
const fromProfile = (studio: Studio, profileId: string | null): [readable: boolean, panelAdd: number] => {
	const profile = profileOrNull(studio, profileId);
	return [(profile?.capture.length ?? 0) > 0, profile?.addressing.deviceId?.panelAdd ?? 0];
};

/** The rig of everything that is not archived. */
export async function readStudioRig(studio: Studio, transaction?: Transaction): Promise<StudioRig> {
	const [rows, cables, fact, contacts] = await Promise.all([
		devicesInOrder(studio, false, transaction),
		cableRows(studio, transaction),
		rigFacts(studio, transaction),
		contactRows(studio, transaction)
	]);
	const list = rows.map((device) =>
		rigDeviceOf(device, device.wiring, ...fromProfile(studio, device.profileId))
	);
	const ports = new Set(list.flatMap((device) => device.ports.map(({ id }) => id)));
	const hosts = hostSchema
		.array()
		// Studios from before there could be several hosts.
		.parse(fact.get('hosts') ?? (fact.has('host') ? [fact.get('host')] : []))
		.map((host) => shownHost(host, ports, list));
	return {
		revision: Number(fact.get('revision') ?? 0),
		rig: sameRig(studio, {
			format: 'silent-drawer.rig',
			version: 2,
			devices: list.map((device) => ({
				...device,
				wants: {
					...device.wants,
					host: hosts.some(({ id }) => id === device.wants.host) ? device.wants.host : undefined
				},
				lock: {
					...device.lock,
					out: device.lock.out && ports.has(device.lock.out) ? device.lock.out : undefined,
					in: device.lock.in && ports.has(device.lock.in) ? device.lock.in : undefined
				}
			})),
			cables: cables.map(fromRow).filter(({ from, to }) => ports.has(from) && ports.has(to)),
			settings: rows
				.filter(({ channel, deviceId, wiring }) => channel !== null || deviceId !== null || wiring?.channels)
				.map(({ id, channel, deviceId, wiring }) => ({
					device: id,
					channel,
					deviceId,
					...(wiring?.channels ? { channels: wiring.channels } : {})
				})),
			layers: ((fact.get('layers') as [string, string][] | undefined) ?? []).filter((pair) =>
				pair.every((id) => rows.some((device) => device.id === id))
			),
			limits: fact.get('limits') ?? {},
			hosts,
			answers: contacts
				.filter(({ device, contact }) => contact.world === 'hardware' && rows.some(({ id }) => id === device))
				.map(({ device, contact }) => ({
					device,
					out: contact.out && ports.has(contact.out) ? contact.out : null,
					in: contact.in && ports.has(contact.in) ? contact.in : null
				}))
		})
	};
}

/** The last rig of each studio, by what it was read from. */
const lastRigs = new WeakMap<Studio, { key: string; rig: Rig }>();

/**
 * The rig of a file; the very same value as long as nothing of it changed, so that what was worked out of it (who reaches
 * whom, what is wrong) is not worked out for every page.
 */
function sameRig(studio: Studio, file: RigFile): Rig {
	const key = JSON.stringify(file);
	const last = lastRigs.get(studio);
	if (last?.key === key) return last.rig;
	const rig = rigSchema.parse(file);
	lastRigs.set(studio, { key, rig });
	return rig;
}

/** A host without what points at gear that is gone; it is back when the gear is. */
function shownHost(host: Host, sockets: ReadonlySet<string>, devices: readonly RigDevice[]): Host {
	return {
		...keepPorts(host, ({ port }) => sockets.has(port)),
		computer: devices.some(({ id }) => id === host.computer) ? host.computer : null
	};
}

const fromRow = ({ fromDevice, fromPort, toDevice, toPort, length, adapter }: CableRow): Cable => ({
	from: rigPortId(fromDevice, fromPort),
	to: rigPortId(toDevice, toPort),
	...(length === null ? {} : { length }),
	...(adapter === null ? {} : { adapter: adapter! })
});

const endsOf = ({ from, to }: Pick<Cable, 'from' | 'to'>) => {
	const [a, b] = [catalogueIds(from), catalogueIds(to)];
	return { fromDevice: a.device, fromPort: a.port, toDevice: b.device, toPort: b.port };
};

const cableKey = ({ from, to, length, adapter }: Cable) =>
	JSON.stringify([from, to, length ?? null, adapter ?? null]);

/** What of a rig's device is kept as its wiring. */
export const wiringOf = (device: RigDevice) => wiringSchema.parse(device);

/** Writes what differs between two states of the studio's rig. */
async function store(studio: Studio, before: Rig, after: Rig, transaction: Transaction): Promise<void> {
	const [old, now] = [before, after].map(
		({ cables }) => new Map(cables.map((cable) => [cableKey(cable), cable]))
	);
	for (const [key, cable] of old) if (!now.has(key)) await removeCable(studio, endsOf(cable), transaction);
	for (const [key, cable] of now)
		if (!old.has(key))
			await addCable(
				studio,
				{ ...endsOf(cable), length: cable.length ?? null, adapter: cable.adapter ?? null },
				transaction
			);
	const settingsBefore = new Map(before.settings.map((setting) => [setting.device, setting]));
	const settingsAfter = new Map(after.settings.map((setting) => [setting.device, setting]));
	for (const device of after.devices) {
		const then = before.devices.find(({ id }) => id === device.id);
		const setting = settingsAfter.get(device.id);
		const values: Partial<DeviceRow> = {};
		const channels = setting?.channels;
		const changed =
			JSON.stringify(then && wiringOf(then)) !== JSON.stringify(wiringOf(device)) ||
			JSON.stringify(settingsBefore.get(device.id)?.channels) !== JSON.stringify(channels);
		if (changed) values.wiring = { ...wiringOf(device), ...(channels ? { channels } : {}) };
		if (JSON.stringify(settingsBefore.get(device.id)) !== JSON.stringify(setting)) {
			values.channel = setting?.channel ?? null;
			values.deviceId = setting?.deviceId ?? null;
		}
		if (Object.keys(values).length > 0) await updateDeviceRow(studio, device.id, values, transaction);
	}
	for (const key of ['hosts', 'layers', 'limits'] as const)
		if (JSON.stringify(before[key]) !== JSON.stringify(after[key]))
			await setRigFact(studio, key, after[key], transaction);
}

/** Writes changes within a transaction, and counts them as one; whoever calls keeps what undoes them. */
export async function writeRigIn(
	studio: Studio,
	changes: readonly RigChange[],
	transaction: Transaction
): Promise<StudioRig & { undo: RigChange[] }> {
	const before = await readStudioRig(studio, transaction);
	const after = applyChanges(before.rig, changes);
	await store(studio, before.rig, after, transaction);
	await setRigFact(studio, 'revision', before.revision + 1, transaction);
	return { rig: after, revision: before.revision + 1, undo: inverses(before.rig, changes) };
}

/** A changed wiring, with what undoes the change and its step in the history. */
export interface ChangedRig extends StudioRig {
	undo: RigChange[];
	/** Null where nothing changed. */
	step: number | null;
}

/** Makes changes within a transaction, as one step of the history. */
export async function changeRigIn(
	studio: Studio,
	changes: readonly RigChange[],
	transaction: Transaction,
	says: string
): Promise<ChangedRig> {
	const changed = await writeRigIn(studio, changes, transaction);
	const { undo } = changed;
	if (changes.length === 0) return { ...changed, step: null };
	const at = studio.now().toISOString();
	return { ...changed, step: await addStep(studio, { at, says, changes: [...changes], undo }, transaction) };
}

/**
 * Makes changes, all or none.
 * @param revision the revision that they were made for, when they only fit that one
 * @param says what they are called in the history
 * @returns the new state, and what undoes the changes
 * @throws Problem `rig.change.conflict`, `rig.device.not-found`
 */
export async function changeStudioRig(
	studio: Studio,
	changes: readonly RigChange[],
	revision?: number,
	says = WIRING_CHANGED
): Promise<ChangedRig> {
	return studio.write(async (transaction) => {
		if (revision !== undefined && revision !== (await readStudioRig(studio, transaction)).revision)
			throw new Problem(
				'rig.change.conflict',
				'The wiring was changed in another tab since you looked.',
				'It is shown as it is now; do it again if it still fits.'
			);
		return changeRigIn(studio, changes, transaction, says);
	});
}

/** The free sockets of interfaces that the next device would get, by name; null where no out is free. */
export async function nextFreeSockets(studio: Studio): Promise<{ out: string; in: string | null } | null> {
	const index = indexRig((await readStudioRig(studio)).rig);
	const free = (direction: 'in' | 'out') =>
		[...index.ports.values()].find(
			({ port, role }) =>
				role === 'interface' && isWire(port) && port.direction === direction && !index.cablesAt.has(port.id)
		);
	const [out, back] = [free('out'), free('in')];
	return out ? { out: portName(out), in: back ? portName(back) : null } : null;
}

/** Plugs a device into the next free out of an interface, and back into a free in where it sends; nothing where none is free. */
export async function plugIntoFree(studio: Studio, id: string): Promise<void> {
	await studio.write(async (transaction) => {
		const { rig } = await readStudioRig(studio, transaction);
		const device = rig.devices.find((one) => one.id === id);
		if (!device) return;
		const [out, back] = [freeOut(rig, device), freeIn(rig, device)];
		const changes = [out, back].flatMap((cable): RigChange[] =>
			cable ? [{ do: 'plug', from: cable.from.port.id, to: cable.to.port.id }] : []
		);
		if (changes.length > 0)
			await changeRigIn(studio, changes, transaction, `${device.name} plugged into what was free`);
	});
}
