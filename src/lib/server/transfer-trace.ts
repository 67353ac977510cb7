import { QueryTypes } from 'sequelize';
import type { Studio } from './db/connection';
import type { StoredTraceLine, TraceOrder } from './transfer-orders';
import { getTransfer, hear } from './transfers';

/** Adds a part to a transfer's log; an empty part only says that the transfer is alive. */
export async function appendTrace(studio: Studio, id: string, order: TraceOrder): Promise<void> {
	await getTransfer(studio, id);
	hear(id);
	if (order.lines.length === 0) return;
	await studio.write(async (transaction) => {
		await studio.sequelize.query(
			'INSERT OR REPLACE INTO transfer_trace (transferId, part, lines) VALUES (?, ?, ?)',
			{ replacements: [id, order.part, JSON.stringify(order.lines)], transaction }
		);
	});
}

export async function readTrace(studio: Studio, id: string): Promise<StoredTraceLine[]> {
	const rows = await studio.sequelize.query<{ lines: string }>(
		'SELECT lines FROM transfer_trace WHERE transferId = :id ORDER BY part',
		{ replacements: { id }, type: QueryTypes.SELECT }
	);
	return rows.flatMap(({ lines }) => JSON.parse(lines) as StoredTraceLine[]);
}

/** The next free part of the log, for a transfer that is resumed. */
export async function tracePart(studio: Studio, id: string): Promise<number> {
	const [row] = await studio.sequelize.query<{ next: number }>(
		'SELECT COALESCE(MAX(part) + 1, 0) AS next FROM transfer_trace WHERE transferId = :id',
		{ replacements: { id }, type: QueryTypes.SELECT }
	);
	return row.next;
}
