import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { versionKind } from '../core/drawer';
import type { Device } from '../core/gear';
import { fromHex } from '../core/midi';
import { Problem } from '../core/problem';
import { DAMAGED, decodeDump, slotKey, type Profile } from '../core/profile';
import { countSlots, scopeSchema, slotsInScope, type Reason } from '../core/transfer';
import type { Studio } from './db/connection';
import { plain, type TransferRow } from './db/models';
import { getObjects, putObject } from './db/objects';
import { keepVersionIn } from './drawer';
import { getDevice } from './gear';
import { newId } from './new-id';
import { currentProfile } from './profiles';

export type Transfer = TransferRow;

export const beginSchema = z.object({
	deviceId: z.string(),
	direction: z.enum(['capture', 'restore']),
	scope: scopeSchema,
	kind: versionKind.default('routine'),
	title: z.string().trim().max(80).default(''),
	sourceVersionId: z.string().nullable().default(null)
});

const reasonSchema = z.object({ code: z.string().max(40), says: z.string().max(600), remedy: z.string().max(900) });
const hexMessage = z.string().regex(/^f0([0-7][0-9a-f])*f7$/, 'a whole SysEx message in hexadecimal, from f0 to f7').max(16 * 1024 * 1024);

export const appendSchema = z.object({
	/** Number of the first message in this transfer, from 0. */
	position: z.number().int().min(0),
	messages: z.array(hexMessage).min(1).max(500)
});

export const traceSchema = z.object({
	part: z.number().int().min(0),
	lines: z.array(z.object({ atMs: z.number(), way: z.enum(['sent', 'received', 'note']), hex: z.string(), says: z.string().default('') })).max(2000)
});

export const safetySchema = z.object({ messages: z.array(hexMessage).min(1), firmware: z.string().nullable() });

export const finishSchema = z.object({
	status: z.enum(['complete', 'incomplete', 'refused', 'verified', 'differs', 'sent']),
	reason: reasonSchema.nullable(),
	missing: z.number().int().min(0).default(0),
	firmware: z.string().nullable().default(null),
	/** What was read back after a restore. */
	readBack: z.array(hexMessage).default([]),
	/** Which of the received messages form the version, by place; all of them when left out. */
	use: z.array(z.number().int().min(0)).nullable().default(null),
	/** Everything else that the result page shows. */
	outcome: z.record(z.string(), z.unknown()).default({})
});

const notFound = (id: string) => new Problem('transfer.not-found', `There is no transfer “${id}”.`, 'Look at the list of transfers.');

/** Transfers whose page has been heard of lately; what is not in here when it says “running” was left alone. */
const heardAt = new Map<string, number>();
const LIVE_MS = 15_000;
export const hear = (id: string): void => void heardAt.set(id, Date.now());

const settle = (row: Transfer): Transfer => (row.status === 'running' && Date.now() - (heardAt.get(row.id) ?? 0) > LIVE_MS ? { ...row, status: 'unfinished' } : row);

function profileOf(device: Device): Profile {
	if (!device.profileId) throw new Problem('device.no-profile', `“${device.name}” has no profile, so the app does not know how to ask it.`, 'Choose a profile on its Facts page, or drop a dump file on it.');
	return currentProfile(device.profileId);
}

export async function beginTransfer(studio: Studio, order: z.infer<typeof beginSchema>): Promise<Transfer> {
	const device = await getDevice(studio, order.deviceId);
	profileOf(device);
	const row = await studio.write((transaction) =>
		studio.models.transfers.create(
			{ ...order, id: newId(), status: 'running', reason: null, outcome: null, startedAt: studio.now().toISOString(), endedAt: null, versionId: null, safetyVersionId: null },
			{ transaction }
		)
	);
	const transfer = plain(row);
	hear(transfer.id);
	return transfer;
}

/** @throws Problem `transfer.not-found` */
export async function getTransfer(studio: Studio, id: string): Promise<Transfer> {
	const row = await studio.models.transfers.findByPk(id);
	if (!row) throw notFound(id);
	return settle(plain(row));
}

export async function listTransfers(studio: Studio, options: { deviceId?: string; limit?: number } = {}): Promise<(Transfer & { received: number })[]> {
	const rows = await studio.models.transfers.findAll({ where: options.deviceId ? { deviceId: options.deviceId } : {}, order: [['startedAt', 'DESC']], limit: options.limit ?? 100 });
	const counts = await studio.sequelize.query<{ transferId: string; received: number }>(
		'SELECT transferId, COUNT(*) AS received FROM transfer_messages WHERE transferId IN (:ids) GROUP BY transferId',
		{ replacements: { ids: ['', ...rows.map((row) => plain(row).id)] }, type: QueryTypes.SELECT }
	);
	return rows.map((row) => {
		const transfer = settle(plain(row));
		return { ...transfer, received: counts.find(({ transferId }) => transferId === transfer.id)?.received ?? 0 };
	});
}

/** Captures that broke off and were neither resumed, kept nor let go. */
export async function unfinishedCaptures(studio: Studio): Promise<(Transfer & { received: number })[]> {
	const rows = await studio.models.transfers.findAll({ where: { direction: 'capture', versionId: null, status: ['running', 'unfinished', 'incomplete'] }, attributes: ['id'], raw: true });
	if (rows.length === 0) return [];
	const ids = new Set(rows.map((row) => (row as unknown as Transfer).id));
	return (await listTransfers(studio, { limit: 500 })).filter((transfer) => ids.has(transfer.id) && transfer.status !== 'running' && transfer.received > 0);
}

/**
 * Stores received messages, durably, before it answers. Sending the same messages again is harmless.
 * @throws Problem `transfer.conflict` where another message stands at that position
 */
export async function appendMessages(studio: Studio, id: string, order: z.infer<typeof appendSchema>): Promise<number> {
	hear(id);
	const transfer = await getTransfer(studio, id);
	return studio.write(async (transaction) => {
		const stored = await studio.sequelize.query<{ position: number; hash: string }>('SELECT position, hash FROM transfer_messages WHERE transferId = :id', {
			replacements: { id }, type: QueryTypes.SELECT, transaction
		});
		const known = new Map(stored.map(({ position, hash }) => [position, hash]));
		if (order.position > known.size)
			throw new Problem('transfer.gap', `Message ${order.position} came before message ${known.size}.`, 'Send the messages in order.');
		const near = await studio.sequelize.query<{ hash: string; size: number }>(
			`SELECT m.hash, o.size FROM version_messages m JOIN objects o ON o.hash = m.hash
			 WHERE m.versionId = (SELECT id FROM versions WHERE deviceId = :device ORDER BY seq DESC LIMIT 1) ORDER BY m.position`,
			{ replacements: { device: transfer.deviceId }, type: QueryTypes.SELECT, transaction }
		);
		const at = studio.now().toISOString();
		for (const [i, hex] of order.messages.entries()) {
			const position = order.position + i;
			const bytes = fromHex(hex);
			const like = near[position]?.size === bytes.length ? near[position] : near.find(({ size }) => size === bytes.length);
			const hash = await putObject(studio, bytes, transaction, like?.hash ?? null);
			if (known.has(position)) {
				if (known.get(position) !== hash) throw new Problem('transfer.conflict', `Another message stands at place ${position} of this transfer.`, 'Resume the transfer: it goes on from what is stored.');
				continue;
			}
			await studio.sequelize.query('INSERT INTO transfer_messages (transferId, position, hash, receivedAt) VALUES (?, ?, ?, ?)', { replacements: [id, position, hash, at], transaction });
		}
		return Math.max(known.size, order.position + order.messages.length);
	});
}

/** The messages received so far, in order. */
export async function receivedMessages(studio: Studio, id: string): Promise<Uint8Array[]> {
	const rows = await studio.sequelize.query<{ hash: string }>('SELECT hash FROM transfer_messages WHERE transferId = :id ORDER BY position', { replacements: { id }, type: QueryTypes.SELECT });
	return getObjects(studio, rows.map(({ hash }) => hash));
}

export async function appendTrace(studio: Studio, id: string, order: z.infer<typeof traceSchema>): Promise<void> {
	await getTransfer(studio, id);
	hear(id);
	if (order.lines.length === 0) return;
	await studio.write(async (transaction) => {
		await studio.sequelize.query('INSERT OR REPLACE INTO transfer_trace (transferId, part, lines) VALUES (?, ?, ?)', { replacements: [id, order.part, JSON.stringify(order.lines)], transaction });
	});
}

export type StoredTraceLine = z.infer<typeof traceSchema>['lines'][number];

export async function readTrace(studio: Studio, id: string): Promise<StoredTraceLine[]> {
	const rows = await studio.sequelize.query<{ lines: string }>('SELECT lines FROM transfer_trace WHERE transferId = :id ORDER BY part', { replacements: { id }, type: QueryTypes.SELECT });
	return rows.flatMap(({ lines }) => JSON.parse(lines) as StoredTraceLine[]);
}

/** The next free part of the log, for a transfer that is resumed. */
export async function tracePart(studio: Studio, id: string): Promise<number> {
	const [row] = await studio.sequelize.query<{ next: number }>('SELECT COALESCE(MAX(part) + 1, 0) AS next FROM transfer_trace WHERE transferId = :id', { replacements: { id }, type: QueryTypes.SELECT });
	return row.next;
}

/** Stores the safety copy of a restore; from here on the device counts as changed until a version says otherwise. */
export async function keepSafetyCopy(studio: Studio, id: string, order: z.infer<typeof safetySchema>): Promise<string> {
	hear(id);
	const transfer = await getTransfer(studio, id);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(device);
	return studio.write(async (transaction) => {
		const version = await keepVersionIn(
			studio,
			{
				device, profile, messages: order.messages.map(fromHex), kind: 'safety', verified: true, firmware: order.firmware, transferId: id, fromDevice: true,
				label: { title: 'Before a restore' }
			},
			transaction
		);
		await studio.models.transfers.update({ safetyVersionId: version.id }, { where: { id }, transaction });
		await studio.models.devices.update({ touchedAt: studio.now().toISOString() }, { where: { id: device.id }, transaction });
		return version.id;
	});
}

/** Ends a transfer and stores what it proved: a version for a complete capture, one for what was read back. */
export async function finishTransfer(studio: Studio, id: string, order: z.infer<typeof finishSchema>): Promise<Transfer> {
	const transfer = await getTransfer(studio, id);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(device);
	const received = transfer.direction === 'capture' ? await receivedMessages(studio, id) : [];
	const captured = order.use ? order.use.filter((place) => place < received.length).map((place) => received[place]) : received;
	await studio.write(async (transaction) => {
		let versionId: string | null = transfer.versionId;
		if (transfer.direction === 'capture' && order.status === 'complete' && !versionId) {
			const claimed = missingSlots(profile, transfer, captured);
			if (claimed > 0) throw new Problem('transfer.not-whole', `${claimed} slots of this capture are not stored, so it is not complete.`, 'Resume it.');
			const version = await keepVersionIn(
				studio,
				{ device, profile, messages: captured, kind: versionKind.parse(transfer.kind), verified: true, firmware: order.firmware, transferId: id, fromDevice: true, label: { title: transfer.title } },
				transaction
			);
			versionId = version.id;
		}
		if (transfer.direction === 'restore' && order.readBack.length > 0 && !versionId) {
			const version = await keepVersionIn(
				studio,
				{ device, profile, messages: order.readBack.map(fromHex), kind: 'after restore', verified: order.status === 'verified', firmware: order.firmware, transferId: id, fromDevice: true, label: { title: transfer.title } },
				transaction
			);
			versionId = version.id;
		}
		if (order.status === 'verified' || order.status === 'sent') await studio.models.devices.update({ touchedAt: null }, { where: { id: device.id }, transaction });
		await studio.models.transfers.update(
			{ status: order.status, reason: order.reason as Reason | null, outcome: order.outcome, endedAt: studio.now().toISOString(), versionId },
			{ where: { id }, transaction }
		);
	});
	heardAt.delete(id);
	return getTransfer(studio, id);
}

/** Slots of the transfer's scope that its stored messages do not hold. */
function missingSlots(profile: Profile, transfer: Transfer, messages: readonly Uint8Array[]): number {
	const held = new Set(decodeDump(profile, messages).slots.map((slot) => slotKey(slot.area, slot.index)));
	let missing = 0;
	for (const [area, slots] of slotsInScope(profile, transfer.scope)) missing += slots.filter((slot) => !held.has(slotKey(area, slot))).length;
	return missing;
}

/** Opens an unfinished capture again. @throws Problem `transfer.ended` */
export async function resumeTransfer(studio: Studio, id: string): Promise<{ transfer: Transfer; messages: Uint8Array[]; part: number; distrusted: boolean }> {
	const transfer = await getTransfer(studio, id);
	if (transfer.direction !== 'capture' || transfer.versionId || !['unfinished', 'incomplete'].includes(transfer.status))
		throw new Problem('transfer.ended', 'This transfer cannot be resumed.', 'Begin a new one.');
	await studio.models.transfers.update({ status: 'running', reason: null, endedAt: null }, { where: { id } });
	hear(id);
	return { transfer: { ...transfer, status: 'running' }, messages: await receivedMessages(studio, id), part: await tracePart(studio, id), distrusted: (await readTrace(studio, id)).some(({ says }) => says.startsWith(DAMAGED)) };
}

/** Keeps what an unfinished capture has received, as it is, as an unverified version. */
export async function keepUnfinished(studio: Studio, id: string): Promise<string> {
	const transfer = await getTransfer(studio, id);
	if (transfer.direction !== 'capture' || transfer.versionId || transfer.status === 'running')
		throw new Problem('transfer.ended', 'There is nothing unfinished to keep here.', 'Look at the list of transfers.');
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(device);
	const messages = await receivedMessages(studio, id);
	return studio.write(async (transaction) => {
		const version = await keepVersionIn(
			studio,
			{ device, profile, messages, kind: 'unfinished', verified: false, missing: missingSlots(profile, transfer, messages), transferId: id, fromDevice: true, label: { title: transfer.title }, takenAt: transfer.startedAt },
			transaction
		);
		await studio.models.transfers.update({ status: 'incomplete', versionId: version.id, endedAt: studio.now().toISOString() }, { where: { id }, transaction });
		return version.id;
	});
}

/** Lets an unfinished capture go: its messages stay in the log's store, it is no longer offered. */
export async function dropUnfinished(studio: Studio, id: string): Promise<void> {
	await getTransfer(studio, id);
	await studio.models.transfers.update({ status: 'refused', endedAt: studio.now().toISOString(), reason: { code: 'cancelled', says: 'You let this unfinished capture go.', remedy: 'Begin a new capture.' } }, { where: { id } });
}

/** After a start of the server nothing runs: what says so was left alone. */
export async function settleLeftovers(studio: Studio): Promise<void> {
	await studio.models.transfers.update({ status: 'unfinished' }, { where: { status: 'running' } });
}

/** The page of a running transfer went away: what was received waits to be resumed. */
export async function abandonTransfer(studio: Studio, id: string): Promise<void> {
	await studio.models.transfers.update({ status: 'unfinished' }, { where: { id, status: 'running' } });
	heardAt.delete(id);
}
