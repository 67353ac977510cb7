import { QueryTypes, type Transaction } from 'sequelize';
import type { Studio } from '../db/connection';
import { plain, type TransferRow } from '../db/models';
import { insertRows } from './insert-rows';

/** A transfer with how many messages it has received. */
export type CountedTransfer = TransferRow & { received: number };

export async function insertTransfer(
	studio: Studio,
	row: TransferRow,
	transaction: Transaction
): Promise<TransferRow> {
	return plain(await studio.models.transfers.create(row, { transaction }));
}

export async function transferRow(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<TransferRow | null> {
	const row = await studio.models.transfers.findByPk(id, { transaction });
	return row ? plain(row) : null;
}

export async function updateTransfer(
	studio: Studio,
	id: string,
	values: Partial<TransferRow>,
	transaction?: Transaction
): Promise<void> {
	await studio.models.transfers.update(values, { where: { id }, transaction });
}

/** Nothing runs any more: what says so was left alone. With an id, that transfer alone. */
export async function abandonRunning(studio: Studio, id?: string): Promise<void> {
	await studio.models.transfers.update(
		{ status: 'unfinished' },
		{ where: { status: 'running', ...(id === undefined ? {} : { id }) } }
	);
}

async function counted(studio: Studio, rows: TransferRow[]): Promise<CountedTransfer[]> {
	const counts = new Map<string, number>();
	for (let i = 0; i < rows.length; i += 500)
		for (const { transferId, received } of await studio.sequelize.query<{
			transferId: string;
			received: number;
		}>(
			'SELECT transferId, COUNT(*) AS received FROM transfer_messages WHERE transferId IN (:ids) GROUP BY transferId',
			{ replacements: { ids: rows.slice(i, i + 500).map(({ id }) => id) }, type: QueryTypes.SELECT }
		))
			counts.set(transferId, received);
	return rows.map((row) => ({ ...row, received: counts.get(row.id) ?? 0 }));
}

/** Transfers, newest first. */
export async function recentTransfers(
	studio: Studio,
	options: { deviceId?: string; limit: number }
): Promise<CountedTransfer[]> {
	const rows = await studio.models.transfers.findAll({
		where: options.deviceId ? { deviceId: options.deviceId } : {},
		order: [['startedAt', 'DESC']],
		limit: options.limit
	});
	return counted(studio, rows.map(plain));
}

/** Every capture that neither ended well nor was kept or let go, however old, newest first. */
export async function openCaptures(studio: Studio): Promise<CountedTransfer[]> {
	const rows = await studio.models.transfers.findAll({
		where: { direction: 'capture', versionId: null, status: ['running', 'unfinished', 'incomplete'] },
		order: [['startedAt', 'DESC']]
	});
	return counted(studio, rows.map(plain));
}

export interface ReceivedMessage {
	position: number;
	hash: string;
	receivedAt: string;
}

/** What a transfer has received, in order. */
export const receivedRows = (
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<ReceivedMessage[]> =>
	studio.sequelize.query<ReceivedMessage>(
		'SELECT position, hash, receivedAt FROM transfer_messages WHERE transferId = :id ORDER BY position',
		{ replacements: { id }, type: QueryTypes.SELECT, transaction }
	);

export const insertReceived = (
	studio: Studio,
	id: string,
	messages: readonly ReceivedMessage[],
	transaction: Transaction
): Promise<void> =>
	insertRows(
		studio,
		'transfer_messages (transferId, position, hash, receivedAt)',
		messages.map(({ position, hash, receivedAt }) => [id, position, hash, receivedAt]),
		transaction
	);

/** How long whole captures took against what was expected, in one world, oldest first. */
export const pastCaptures = (
	studio: Studio,
	world: string
): Promise<{ deviceId: string; predictedMs: number; startedAt: string; endedAt: string }[]> =>
	studio.sequelize.query(
		`SELECT deviceId, predictedMs, startedAt, endedAt FROM transfers
		 WHERE direction = 'capture' AND status = 'complete' AND world = :world AND scope = '{"kind":"all"}'
		 AND resumed = 0 AND predictedMs > 0 AND endedAt IS NOT NULL ORDER BY startedAt`,
		{ replacements: { world }, type: QueryTypes.SELECT }
	);
