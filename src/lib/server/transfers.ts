import { QueryTypes } from 'sequelize';
import { versionKind } from '../core/drawer';
import type { Device } from '../core/gear';
import { fromHex, toHex } from '../core/midi';
import { Problem } from '../core/problem';
import { decodeDump, slotKey, type Profile } from '../core/profile';
import { slotsInScope, type Reason } from '../core/transfer';
import type { Studio } from './db/connection';
import { plain, type TransferRow } from './db/models';
import { getObjects, putObjects, similarObjects } from './db/objects';
import { keepVersionIn, openVersion } from './drawer';
import { getDevice } from './gear';
import { insertRows } from './insert-rows';
import { newId } from './new-id';
import type { z } from 'zod';
import { beginSchema, type AppendOrder, type FinishOrder, type SafetyOrder } from './transfer-orders';
import { currentProfile } from './profiles';
import { getRecords } from './records';
import { noteSnapshotItem } from './snapshots';
import { keepWanted, slotsOfSource, wantedScope } from './wanted';

export type Transfer = TransferRow;

const notFound = (id: string) =>
	new Problem('transfer.not-found', `There is no transfer “${id}”.`, 'Look at the list of transfers.');

/** Transfers whose page has been heard of lately; what is not in here when it says “running” was left alone. */
const heardAt = new Map<string, number>();
const LIVE_MS = 15_000;
export const hear = (id: string): void => void heardAt.set(id, Date.now());
export const unhear = (id: string): boolean => heardAt.delete(id);

const settle = (row: Transfer): Transfer =>
	row.status === 'running' && Date.now() - (heardAt.get(row.id) ?? 0) > LIVE_MS
		? { ...row, status: 'unfinished' }
		: row;

/** The profile that a device is asked with; null for one that is kept raw. */
export const profileOf = (studio: Studio, device: Device): Profile | null =>
	device.profileId ? currentProfile(studio, device.profileId) : null;

export async function beginTransfer(studio: Studio, given: z.input<typeof beginSchema>): Promise<Transfer> {
	const order = beginSchema.parse(given);
	const device = await getDevice(studio, order.deviceId);
	const profile = profileOf(studio, device);
	const { source, ...facts } = order;
	const from =
		source ??
		(order.sourceVersionId
			? { from: 'version' as const, versionId: order.sourceVersionId, scope: order.scope }
			: null);
	const slots =
		order.direction === 'restore' && profile && from
			? await slotsOfSource(studio, device, profile, from)
			: [];
	const row = await studio.write(async (transaction) => {
		const wanted = profile && slots.length > 0 ? await keepWanted(studio, profile, slots, transaction) : null;
		return studio.models.transfers.create(
			{
				...facts,
				scope: wanted ? wantedScope(wanted) : order.scope,
				wanted,
				id: newId(),
				status: 'running',
				reason: null,
				outcome: null,
				startedAt: studio.now().toISOString(),
				endedAt: null,
				versionId: null,
				safetyVersionId: null
			},
			{ transaction }
		);
	});
	const transfer = plain(row);
	hear(transfer.id);
	return transfer;
}

/** What a restore shall bring to its device, slot by slot; for a raw device, message by message. */
export async function wantedOf(
	studio: Studio,
	id: string
): Promise<{ slots: { area: string; index: number; hex: string }[]; messages: string[] }> {
	const transfer = await getTransfer(studio, id);
	if (transfer.wanted) {
		const records = await getRecords(
			studio,
			transfer.wanted.map(({ record }) => record)
		);
		return {
			messages: [],
			slots: transfer.wanted.map(({ area, index, record }) => ({
				area,
				index,
				hex: toHex(records.get(record)!)
			}))
		};
	}
	if (!transfer.sourceVersionId) return { slots: [], messages: [] };
	const { messages } = await openVersion(studio, transfer.sourceVersionId);
	return { slots: [], messages: messages.map((bytes) => toHex(bytes)) };
}

/** @throws Problem `transfer.not-found` */
export async function getTransfer(studio: Studio, id: string): Promise<Transfer> {
	const row = await studio.models.transfers.findByPk(id);
	if (!row) throw notFound(id);
	return settle(plain(row));
}

export async function listTransfers(
	studio: Studio,
	options: { deviceId?: string; limit?: number } = {}
): Promise<(Transfer & { received: number })[]> {
	const rows = await studio.models.transfers.findAll({
		where: options.deviceId ? { deviceId: options.deviceId } : {},
		order: [['startedAt', 'DESC']],
		limit: options.limit ?? 100
	});
	const counts = await studio.sequelize.query<{ transferId: string; received: number }>(
		'SELECT transferId, COUNT(*) AS received FROM transfer_messages WHERE transferId IN (:ids) GROUP BY transferId',
		{ replacements: { ids: ['', ...rows.map((row) => plain(row).id)] }, type: QueryTypes.SELECT }
	);
	return rows.map((row) => {
		const transfer = settle(plain(row));
		return {
			...transfer,
			received: counts.find(({ transferId }) => transferId === transfer.id)?.received ?? 0
		};
	});
}

/**
 * Stores received messages, durably, before it answers. Sending the same messages again is harmless.
 * @throws Problem `transfer.conflict` where another message stands at that position
 */
export async function appendMessages(studio: Studio, id: string, order: AppendOrder): Promise<number> {
	hear(id);
	const transfer = await getTransfer(studio, id);
	return studio.write(async (transaction) => {
		const stored = await studio.sequelize.query<{ position: number; hash: string }>(
			'SELECT position, hash FROM transfer_messages WHERE transferId = :id',
			{
				replacements: { id },
				type: QueryTypes.SELECT,
				transaction
			}
		);
		const known = new Map(stored.map(({ position, hash }) => [position, hash]));
		if (order.position > known.size)
			throw new Problem(
				'transfer.gap',
				`Message ${order.position} came before message ${known.size}.`,
				'Send the messages in order.'
			);
		const similar = await similarObjects(studio, transfer.deviceId, transaction);
		const at = studio.now().toISOString();
		const contents = order.messages.map((hex, i) => {
			const bytes = fromHex(hex);
			return { bytes, like: similar(order.position + i, bytes.length) };
		});
		const hashes = await putObjects(studio, contents, transaction);
		const fresh = hashes
			.map((hash, i) => ({ hash, position: order.position + i }))
			.filter(({ hash, position }) => {
				if (known.has(position) && known.get(position) !== hash)
					throw new Problem(
						'transfer.conflict',
						`Another message stands at place ${position} of this transfer.`,
						'Resume the transfer: it goes on from what is stored.'
					);
				return !known.has(position);
			});
		await insertRows(
			studio,
			'transfer_messages (transferId, position, hash, receivedAt)',
			fresh.map(({ hash, position }) => [id, position, hash, at]),
			transaction
		);
		return Math.max(known.size, order.position + order.messages.length);
	});
}

/** The messages received so far, in order. */
export async function receivedMessages(studio: Studio, id: string): Promise<Uint8Array[]> {
	const rows = await studio.sequelize.query<{ hash: string }>(
		'SELECT hash FROM transfer_messages WHERE transferId = :id ORDER BY position',
		{ replacements: { id }, type: QueryTypes.SELECT }
	);
	return getObjects(
		studio,
		rows.map(({ hash }) => hash)
	);
}

/** Stores the safety copy of a restore; from here on the device counts as changed until a version says otherwise. */
export async function keepSafetyCopy(studio: Studio, id: string, order: SafetyOrder): Promise<string> {
	hear(id);
	const transfer = await getTransfer(studio, id);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(studio, device);
	return studio.write(async (transaction) => {
		const version = await keepVersionIn(
			studio,
			{
				device,
				profile,
				messages: order.messages.map(fromHex),
				kind: 'safety',
				verified: true,
				firmware: order.firmware,
				transferId: id,
				fromDevice: true,
				label: { title: 'Before a restore' }
			},
			transaction
		);
		await studio.models.transfers.update({ safetyVersionId: version.id }, { where: { id }, transaction });
		await studio.models.devices.update(
			{ touchedAt: studio.now().toISOString() },
			{ where: { id: device.id }, transaction }
		);
		return version.id;
	});
}

/** Ends a transfer and stores what it proved: a version for a complete capture, one for what was read back. */
export async function finishTransfer(studio: Studio, id: string, order: FinishOrder): Promise<Transfer> {
	const transfer = await getTransfer(studio, id);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(studio, device);
	const received = transfer.direction === 'capture' ? await receivedMessages(studio, id) : [];
	const captured = order.use
		? order.use.filter((place) => place < received.length).map((place) => received[place])
		: received;
	await studio.write(async (transaction) => {
		let versionId: string | null = transfer.versionId;
		if (transfer.direction === 'capture' && order.status === 'complete' && !versionId) {
			const claimed = missingSlots(profile, transfer, captured);
			if (claimed > 0)
				throw new Problem(
					'transfer.not-whole',
					`${claimed} slots of this capture are not stored, so it is not complete.`,
					'Resume it.'
				);
			const version = await keepVersionIn(
				studio,
				{
					device,
					profile,
					messages: captured,
					kind: versionKind.parse(transfer.kind),
					// Without a profile only a dump that came twice alike is proved.
					verified: profile !== null || order.proved,
					firmware: order.firmware,
					transferId: id,
					fromDevice: true,
					label: { title: transfer.title }
				},
				transaction
			);
			versionId = version.id;
		}
		if (transfer.direction === 'restore' && order.readBack.length > 0 && !versionId) {
			const version = await keepVersionIn(
				studio,
				{
					device,
					profile,
					messages: order.readBack.map(fromHex),
					kind: 'after restore',
					verified: order.status === 'verified',
					firmware: order.firmware,
					transferId: id,
					fromDevice: true,
					label: { title: transfer.title }
				},
				transaction
			);
			versionId = version.id;
		}
		if (order.status === 'verified' || order.status === 'sent')
			await studio.models.devices.update({ touchedAt: null }, { where: { id: device.id }, transaction });
		await studio.models.transfers.update(
			{
				status: order.status,
				reason: order.reason as Reason | null,
				outcome: order.outcome,
				endedAt: studio.now().toISOString(),
				versionId
			},
			{ where: { id }, transaction }
		);
	});
	unhear(id);
	const ended = await getTransfer(studio, id);
	if (ended.snapshotId && ended.direction === 'capture')
		await noteSnapshotItem(studio, ended.snapshotId, ended.deviceId, {
			versionId: ended.versionId,
			says: ended.versionId ? '' : (ended.reason?.says ?? 'It broke off.'),
			tookMs: Date.parse(ended.endedAt!) - Date.parse(ended.startedAt)
		});
	return ended;
}

/** Slots of the transfer's scope that its stored messages do not hold. */
export function missingSlots(
	profile: Profile | null,
	transfer: Transfer,
	messages: readonly Uint8Array[]
): number {
	if (!profile) return 0;
	const held = new Set(decodeDump(profile, messages).slots.map((slot) => slotKey(slot.area, slot.index)));
	let missing = 0;
	for (const [area, slots] of slotsInScope(profile, transfer.scope))
		missing += slots.filter((slot) => !held.has(slotKey(area, slot))).length;
	return missing;
}
