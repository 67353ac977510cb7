import { Problem } from '../core/problem';
import { DAMAGED } from '../core/profile';
import type { Studio } from './db/connection';
import { keepVersionIn } from './drawer';
import { getDevice } from './gear';
import { readTrace, tracePart } from './transfer-trace';
import {
	getTransfer,
	hear,
	listTransfers,
	missingSlots,
	profileOf,
	receivedMessages,
	unhear,
	type Transfer
} from './transfers';

/** Captures that broke off and were neither resumed, kept nor let go. */
export async function unfinishedCaptures(studio: Studio): Promise<(Transfer & { received: number })[]> {
	const rows = await studio.models.transfers.findAll({
		where: { direction: 'capture', versionId: null, status: ['running', 'unfinished', 'incomplete'] },
		attributes: ['id'],
		raw: true
	});
	if (rows.length === 0) return [];
	const ids = new Set(rows.map((row) => (row as unknown as Transfer).id));
	return (await listTransfers(studio, { limit: 500 })).filter(
		(transfer) => ids.has(transfer.id) && transfer.status !== 'running' && transfer.received > 0
	);
}

/** Opens an unfinished capture again. @throws Problem `transfer.ended` */
export async function resumeTransfer(
	studio: Studio,
	id: string
): Promise<{ transfer: Transfer; messages: Uint8Array[]; part: number; distrusted: boolean }> {
	const transfer = await getTransfer(studio, id);
	if (
		transfer.direction !== 'capture' ||
		transfer.versionId ||
		!['unfinished', 'incomplete'].includes(transfer.status)
	)
		throw new Problem('transfer.ended', 'This transfer cannot be resumed.', 'Begin a new one.');
	await studio.models.transfers.update({ status: 'running', reason: null, endedAt: null }, { where: { id } });
	hear(id);
	return {
		transfer: { ...transfer, status: 'running' },
		messages: await receivedMessages(studio, id),
		part: await tracePart(studio, id),
		distrusted: (await readTrace(studio, id)).some(({ says }) => says.startsWith(DAMAGED))
	};
}

/** Keeps what an unfinished capture has received, as it is, as an unverified version. */
export async function keepUnfinished(studio: Studio, id: string): Promise<string> {
	const transfer = await getTransfer(studio, id);
	if (transfer.direction !== 'capture' || transfer.versionId || transfer.status === 'running')
		throw new Problem(
			'transfer.ended',
			'There is nothing unfinished to keep here.',
			'Look at the list of transfers.'
		);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(studio, device);
	const messages = await receivedMessages(studio, id);
	return studio.write(async (transaction) => {
		const version = await keepVersionIn(
			studio,
			{
				device,
				profile,
				messages,
				kind: 'unfinished',
				verified: false,
				missing: missingSlots(profile, transfer, messages),
				transferId: id,
				fromDevice: true,
				label: { title: transfer.title },
				takenAt: transfer.startedAt
			},
			transaction
		);
		await studio.models.transfers.update(
			{ status: 'incomplete', versionId: version.id, endedAt: studio.now().toISOString() },
			{ where: { id }, transaction }
		);
		return version.id;
	});
}

/** Lets an unfinished capture go: its messages stay in the log's store, it is no longer offered. */
export async function dropUnfinished(studio: Studio, id: string): Promise<void> {
	await getTransfer(studio, id);
	await studio.models.transfers.update(
		{
			status: 'refused',
			endedAt: studio.now().toISOString(),
			reason: {
				code: 'cancelled',
				says: 'You let this unfinished capture go.',
				remedy: 'Begin a new capture.'
			}
		},
		{ where: { id } }
	);
}

/** After a start of the server nothing runs: what says so was left alone. */
export async function settleLeftovers(studio: Studio): Promise<void> {
	await studio.models.transfers.update({ status: 'unfinished' }, { where: { status: 'running' } });
}

/** The page of a running transfer went away: what was received waits to be resumed. */
export async function abandonTransfer(studio: Studio, id: string): Promise<void> {
	await studio.models.transfers.update({ status: 'unfinished' }, { where: { id, status: 'running' } });
	unhear(id);
}
