import type { Transaction } from 'sequelize';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import { deviceSchema, factsFromProfile, namePorts, type Device, type DeviceFacts } from '../core/gear';
import { MODELS } from '../core/bench';
import type { Studio } from './db/connection';
import { benchModelOf, currentProfile } from './profiles';
import { noteTouched } from './knowing';
import { newId } from './new-id';
import { unitRow, unitsOfModel } from './store/bench-units';
import { deviceRow, devicesInOrder, insertDevice, pluggedDevices, updateDeviceRow } from './store/devices';

const notFound = (id: string) =>
	new Problem(
		'device.not-found',
		`There is no device “${id}” in the catalogue.`,
		'It may have been removed in another tab: look at the list again.'
	);

/** All devices, by place and name; archived ones only when asked for. */
export function listDevices(studio: Studio, options: { archived?: boolean } = {}): Promise<Device[]> {
	return devicesInOrder(studio, options.archived ?? false);
}

/** @throws Problem `device.not-found` */
export async function getDevice(studio: Studio, id: string): Promise<Device> {
	const row = await deviceRow(studio, id);
	if (!row) throw notFound(id);
	return row;
}

/** The device of that id, or of that name where only one has it. @throws Problem `device.not-found` */
export async function findDevice(studio: Studio, idOrName: string): Promise<Device> {
	const devices = await listDevices(studio, { archived: true });
	const byId = devices.find(({ id }) => id === idOrName);
	const byName = devices.filter(({ name }) => name.toLowerCase() === idOrName.toLowerCase());
	if (byId ?? byName.length === 1) return byId ?? byName[0];
	throw notFound(idOrName);
}

/** What a profile says of a new device, before the musician says more. @throws Problem where there is no such profile */
export const factsOfModel = (studio: Studio, profileId: string, name: string): DeviceFacts =>
	factsFromProfile(currentProfile(studio, profileId), name);

/** Facts as they are stored: checked, with an id for every port. */
function checked(facts: DeviceFacts): DeviceFacts {
	const parsed = deviceSchema.parse(facts);
	return { ...parsed, ports: namePorts(parsed.ports) };
}

/** Adds a device. In a studio on the bench, one with a profile is plugged in to a free unit of its model, if there is one. */
export async function addDevice(studio: Studio, facts: DeviceFacts, id = newId()): Promise<Device> {
	return studio.write((transaction) => addDeviceIn(studio, facts, id, transaction));
}

/**
 * The same within a transaction.
 * @param profile its profile, where that is not known to the studio yet
 */
export async function addDeviceIn(
	studio: Studio,
	facts: DeviceFacts,
	id: string,
	transaction: Transaction,
	profile?: Profile
): Promise<Device> {
	const parsed = checked(facts);
	const model = parsed.profileId ? benchModelOf(profile ?? currentProfile(studio, parsed.profileId)) : null;
	const taken = new Set((await pluggedDevices(studio, transaction)).map(({ benchUnit }) => benchUnit));
	const units =
		model !== null && studio.world === 'bench' ? await unitsOfModel(studio, model, transaction) : [];
	return insertDevice(
		studio,
		{
			...parsed,
			id,
			benchUnit: units.find((unit) => !taken.has(unit)) ?? null,
			archivedAt: null,
			createdAt: studio.now().toISOString()
		},
		transaction
	);
}

/**
 * Changes what is noted of a device. One that gets another profile counts as changed in both worlds: what was known of its
 * slots was of the one before.
 * @throws Problem `device.not-found`
 */
export async function changeDeviceIn(
	studio: Studio,
	id: string,
	values: Partial<Device>,
	transaction: Transaction
): Promise<Device> {
	const before = await deviceRow(studio, id, transaction);
	if (!before) throw notFound(id);
	await updateDeviceRow(studio, id, values, transaction);
	const { profileId = before.profileId } = values;
	if (before.profileId !== null && profileId !== before.profileId)
		for (const world of ['bench', 'hardware'] as const) await noteTouched(studio, id, world, transaction);
	return (await deviceRow(studio, id, transaction))!;
}

const change = (studio: Studio, id: string, values: Partial<Device>): Promise<Device> =>
	studio.write((transaction) => changeDeviceIn(studio, id, values, transaction));

export const updateDevice = (studio: Studio, id: string, facts: DeviceFacts): Promise<Device> =>
	change(studio, id, checked(facts));

/**
 * Changes a device by what is noted of it at that moment: nobody changes it in between.
 * @throws Problem `device.not-found`, and whatever `revise` throws; then nothing is changed
 */
export const reviseDevice = (
	studio: Studio,
	id: string,
	revise: (now: Device) => DeviceFacts
): Promise<{ before: Device; device: Device }> =>
	studio.write(async (transaction) => {
		const before = await deviceRow(studio, id, transaction);
		if (!before) throw notFound(id);
		return { before, device: await changeDeviceIn(studio, id, checked(revise(before)), transaction) };
	});

export const archiveDevice = (studio: Studio, id: string): Promise<Device> =>
	change(studio, id, { archivedAt: studio.now().toISOString(), benchUnit: null });

export const unarchiveDevice = (studio: Studio, id: string): Promise<Device> =>
	change(studio, id, { archivedAt: null });

/** Notes that somebody changed a device's sounds by hand, in the studio's own world. */
export async function touchDevice(studio: Studio, id: string): Promise<Device> {
	const device = await getDevice(studio, id);
	await studio.write((transaction) => noteTouched(studio, id, studio.world, transaction));
	return device;
}

/** Plugs a device in to a unit of the bench, or pulls it out. @throws Problem `bench.taken`, `bench.not-found`, `device.not-found` */
export const plugDevice = (studio: Studio, id: string, unitId: string | null): Promise<Device> =>
	studio.write((transaction) => plugDeviceIn(studio, id, unitId, transaction));

/** The same within a transaction. */
export async function plugDeviceIn(
	studio: Studio,
	id: string,
	unitId: string | null,
	transaction: Transaction
): Promise<Device> {
	if (!(await deviceRow(studio, id, transaction))) throw notFound(id);
	if (unitId !== null) {
		if (!(await unitRow(studio, unitId, transaction)))
			throw new Problem('bench.not-found', 'That unit is no longer on the bench.', 'Choose another one.');
		const taken = (await pluggedDevices(studio, transaction)).find(
			(other) => other.benchUnit === unitId && other.id !== id
		);
		if (taken)
			throw new Problem(
				'bench.taken',
				`“${(await deviceRow(studio, taken.id, transaction))?.name}” is plugged in there.`,
				'Pull it out first, or choose another unit.'
			);
	}
	await updateDeviceRow(studio, id, { benchUnit: unitId }, transaction);
	return (await deviceRow(studio, id, transaction))!;
}

/** A name for a further device: this one, or with the first number behind it that no other device has. */
export async function freeName(studio: Studio, name: string): Promise<string> {
	const names = new Set((await listDevices(studio, { archived: true })).map((device) => device.name));
	if (!names.has(name)) return name;
	const base = name.slice(0, 55);
	let n = 2;
	while (names.has(`${base} ${n}`)) n++;
	return `${base} ${n}`;
}

/** A second device like this one, without serial number, history or cable. */
export async function duplicateDevice(studio: Studio, id: string): Promise<Device> {
	const device = await getDevice(studio, id);
	const facts = deviceSchema.parse(device);
	return addDevice(studio, { ...facts, name: await freeName(studio, facts.name), serial: '' });
}

/** Models that the bench can simulate. */
export const simulatedProfiles = (): string[] => Object.keys(MODELS);
