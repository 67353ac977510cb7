import { z } from 'zod';
import {
	planTake,
	type Contact,
	type StoredLine,
	type Surroundings,
	type TakeOrder,
	type Taking
} from '../core/contact';
import type { FinishOrder, LiveWorld, Transfer } from '../core/drawer';
import { portSchema, rememberedPortSchema, sendsMessages, type Device } from '../core/gear';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import { changeSchema, hostWays, roleOf } from '../core/rig';
import { answersRoll } from '../core/transfer';
import type { Transaction } from 'sequelize';
import type { Studio } from './db/connection';
import { changeDeviceIn, getDevice, plugDeviceIn } from './gear';
import { newId } from './new-id';
import { knownProfiles } from './profiles';
import { changeRigIn, readStudioRig, writeRigIn } from './rig';
import { unitRow } from './store/bench-units';
import { contactsOf, putContact } from './store/contacts';
import { devicesInOrder, deviceRow, insertDevice, removeBlankDevice, updateDeviceRow } from './store/devices';
import { keepPorts, portRows, removePort } from './store/ports';
import { dropStep } from './store/wiring-steps';

const id = z.string().min(1).max(300);

/** What brings the studio back to before a take. */
export const undoTakeSchema = z.object({
	devices: z.array(id).max(200),
	sockets: z.array(z.object({ device: id, ports: z.array(portSchema).max(64) })).max(200),
	changes: z.array(changeSchema).max(500),
	/** Its step in the history of the wiring, where it changed that. */
	step: z.number().int().nullable(),
	/** Which port was which before, of those that the take noted. */
	before: z.array(rememberedPortSchema).max(512),
	noted: z.array(rememberedPortSchema.pick({ key: true, direction: true })).max(512),
	units: z.array(z.object({ device: id, unit: z.string().nullable() })).max(200),
	/** Profiles that devices had before. */
	profiles: z
		.array(z.object({ device: id, profileId: z.string().max(60).nullable() }))
		.max(200)
		.default([])
});
export type UndoTake = z.infer<typeof undoTakeSchema>;

/** Where a device was heard just now. */
export const contactSchema = z.object({
	world: z.enum(['bench', 'hardware']),
	how: z.enum(['identity', 'dump']),
	out: id.nullable(),
	in: id.nullable(),
	outName: z.string().max(200),
	inName: z.string().max(200),
	deviceId: z.number().int().min(0).max(126).nullable(),
	firmware: z.string().max(30).nullable()
});

export interface Taken {
	/** The devices that were taken, new or known, with their names. */
	devices: { id: string; name: string; fresh: boolean }[];
	/** Interfaces and computers that were made for them. */
	besides: string[];
	undo: UndoTake;
}

async function around(studio: Studio, order: TakeOrder, transaction: Transaction): Promise<Surroundings> {
	return {
		devices: await devicesInOrder(studio, false, transaction),
		rig: (await readStudioRig(studio, transaction)).rig,
		profiles: knownProfiles(studio),
		remembered: await portRows(studio, transaction),
		present: order.present
	};
}

async function write(
	studio: Studio,
	taking: Taking,
	before: Surroundings,
	transaction: Transaction
): Promise<UndoTake> {
	const now = studio.now().toISOString();
	for (const { id: device, facts } of taking.devices)
		await insertDevice(
			studio,
			{ ...facts, id: device, wiring: null, benchUnit: null, archivedAt: null, createdAt: now },
			transaction
		);
	for (const { device, ports } of taking.sockets)
		await updateDeviceRow(studio, device, { ports }, transaction);
	const units = [
		...taking.devices.flatMap(({ id: device, unit }) => (unit === null ? [] : [{ device, unit }])),
		...taking.units
	];
	for (const { device, unit } of units) await plugDeviceIn(studio, device, unit, transaction);
	for (const { device, profileId } of taking.profiles)
		await changeDeviceIn(studio, device, { profileId }, transaction);
	const changed =
		taking.changes.length > 0
			? await changeRigIn(
					studio,
					taking.changes,
					transaction,
					`Taken: ${taking.met.map(({ name }) => name).join(', ')}`.slice(0, 300)
				)
			: null;
	await keepPorts(studio, taking.remember, now, transaction);
	return {
		devices: taking.devices.map(({ id: device }) => device),
		sockets: taking.sockets.map(({ device }) => ({
			device,
			ports: before.devices.find((one) => one.id === device)!.ports
		})),
		changes: changed?.undo ?? [],
		step: changed?.step ?? null,
		// A port that was another socket's is given over: it goes back, too.
		before: before.remembered.filter((old) =>
			taking.remember.some(
				(port) =>
					port.direction === old.direction &&
					(port.key === old.key || (port.id === old.id && port.name === old.name))
			)
		),
		noted: taking.remember.map(({ key, direction }) => ({ key, direction })),
		units: taking.units.map(({ device }) => ({
			device,
			unit: before.devices.find((one) => one.id === device)?.benchUnit ?? null
		})),
		profiles: taking.profiles.map(({ device }) => ({
			device,
			profileId: before.devices.find((one) => one.id === device)!.profileId
		}))
	};
}

/**
 * Takes what was found into the catalogue, in one transaction: devices, interface, cables, which port is which, device
 * IDs; and notes where each was heard. The answer holds what undoes it.
 * @throws Problem `take.no-port`, `take.no-device`, `take.no-profile`, `bench.taken`
 */
export async function takeFound(studio: Studio, order: TakeOrder): Promise<Taken> {
	return studio.write(async (transaction) => {
		const before = await around(studio, order, transaction);
		const taking = planTake(before, order, newId);
		const undo = await write(studio, taking, before, transaction);
		const portName = (portId: string | null, direction: 'in' | 'out') =>
			order.present.find((port) => port.id === portId && port.direction === direction)?.name ?? '';
		for (const { device, out, in: back, item } of taking.met)
			if (item.answered)
				await putContact(
					studio,
					device,
					{
						world: item.unit === null ? 'hardware' : 'bench',
						at: studio.now().toISOString(),
						how: 'identity',
						out,
						in: back,
						outName: portName(item.out, 'out'),
						inName: portName(item.in, 'in'),
						deviceId: item.deviceId,
						firmware: item.firmware
					},
					transaction
				);
		const met = new Set(taking.met.map(({ device }) => device));
		return {
			devices: taking.met.map(({ device, name, item }) => ({
				id: device,
				name,
				fresh: item.device === null
			})),
			besides: taking.devices.filter(({ id: device }) => !met.has(device)).map(({ facts }) => facts.name),
			undo
		};
	});
}

/**
 * Undoes a take, whole or not at all. A device that it added and that has something kept by now is archived instead.
 * @returns the names of those that were archived
 * @throws Problem `rig.change.conflict` where the wiring changed since
 */
export async function undoTake(studio: Studio, undo: UndoTake): Promise<{ archived: string[] }> {
	return studio.write(async (transaction) => {
		if (undo.changes.length > 0) await writeRigIn(studio, undo.changes, transaction);
		// What it added goes with it, so that nothing of it could be redone.
		if (undo.step !== null) await dropStep(studio, undo.step, transaction);
		for (const { device, ports } of undo.sockets)
			await updateDeviceRow(studio, device, { ports }, transaction);
		for (const { device, unit } of undo.units) await plugDeviceIn(studio, device, unit, transaction);
		for (const { device, profileId } of undo.profiles)
			await changeDeviceIn(studio, device, { profileId }, transaction);
		for (const { key, direction } of undo.noted) await removePort(studio, key, direction, transaction);
		await keepPorts(studio, undo.before, studio.now().toISOString(), transaction);
		const archived: string[] = [];
		for (const device of undo.devices) {
			const row = await deviceRow(studio, device, transaction);
			if (!row || (await removeBlankDevice(studio, device, transaction))) continue;
			await updateDeviceRow(
				studio,
				device,
				{ archivedAt: studio.now().toISOString(), benchUnit: null },
				transaction
			);
			archived.push(row.name);
		}
		return { archived };
	});
}

/** Notes that a device was heard. @throws Problem `device.not-found` */
export async function noteContact(
	studio: Studio,
	device: string,
	heard: z.infer<typeof contactSchema>
): Promise<Contact> {
	await getDevice(studio, device);
	const contact = { ...heard, at: studio.now().toISOString() };
	await studio.write((transaction) => putContact(studio, device, contact, transaction));
	return contact;
}

/**
 * Notes the way on which a device was heard as its cables, as one change.
 * @throws Problem `contact.none` where it was never heard over real ports
 */
export async function noteWay(studio: Studio, device: string): Promise<Taken> {
	const known = await getDevice(studio, device);
	const contact = (await contactsOf(studio, device)).find(({ world }) => world === 'hardware');
	const remembered = await portRows(studio);
	const portOf = (key: string | null | undefined, direction: 'in' | 'out') =>
		remembered.find((port) => port.key === key && port.direction === direction)?.id ?? null;
	const out = portOf(contact?.out, 'out');
	if (!contact || out === null)
		throw new Problem(
			'contact.none',
			`“${known.name}” has not been heard at a port that is known.`,
			'Find it: then its cables can be noted.'
		);
	return takeFound(studio, {
		present: remembered.map(({ key: _, ...port }) => port),
		items: [
			{
				out,
				in: portOf(contact.in, 'in'),
				unit: null,
				device,
				name: '',
				profileId: known.profileId,
				deviceId: contact.deviceId,
				// It was heard then, and not again now.
				answered: false,
				firmware: contact.firmware
			}
		],
		interfaces: []
	});
}

/** Reasons that say that who answered was somebody else. */
const STRANGERS = ['wrong model', 'wrong device ID'];

/** What the end of a transfer shows of the line: the device said who it is, or sent what it was asked for. */
export async function noteHeard(
	studio: Studio,
	{
		transfer,
		device,
		profile,
		world,
		order
	}: { transfer: Transfer; device: Device; profile: Profile | null; world: LiveWorld; order: FinishOrder },
	transaction: Transaction
): Promise<void> {
	if (order.reason && STRANGERS.includes(order.reason.code)) return;
	const dumped = transfer.direction === 'capture' && order.status === 'complete';
	if (order.firmware === null && !dumped) return;
	const unit = device.benchUnit === null ? null : await unitRow(studio, device.benchUnit, transaction);
	const line =
		world === 'bench'
			? { out: null, in: null, outName: unit?.name ?? '', inName: unit?.name ?? '' }
			: order.line;
	if (!line) return;
	await putContact(
		studio,
		device.id,
		{
			world,
			at: studio.now().toISOString(),
			how: order.firmware === null ? 'dump' : 'identity',
			...line,
			deviceId: profile?.addressing.deviceId
				? (device.deviceId ?? profile.addressing.deviceId.default)
				: null,
			firmware: order.firmware
		},
		transaction
	);
}

/** What the line to a device depends on, as far as the server knows it. */
export async function storedLine(
	studio: Studio,
	device: Device,
	profile: Profile | null
): Promise<StoredLine> {
	const way = hostWays((await readStudioRig(studio)).rig).find((one) => one.device === device.id) ?? null;
	const unit = device.benchUnit === null ? null : await unitRow(studio, device.benchUnit);
	const ends = [way?.out?.port, way?.in?.port];
	const addressed = profile?.addressing.deviceId;
	return {
		device: { id: device.id, name: device.name },
		way,
		unit: unit && { id: unit.id, name: unit.name },
		panelId: addressed ? (device.deviceId ?? addressed.default) + addressed.panelAdd : null,
		readable: profile
			? profile.capture.length > 0
			: !['host', 'supply', 'hub'].includes(roleOf(device)) && device.ports.some(sendsMessages),
		answers: profile !== null && answersRoll(profile),
		contacts: await contactsOf(studio, device.id),
		remembered: (await portRows(studio)).filter(({ key }) => ends.includes(key))
	};
}
