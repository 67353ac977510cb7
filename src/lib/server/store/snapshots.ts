import type { Transaction } from 'sequelize';
import { settingsSchema, type Snapshot, type SnapshotItem, type SnapshotStatus } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { all, one, parsed, run, stored } from './sql';

/** A snapshot that begins. */
export type NewSnapshot = Pick<Snapshot, 'id' | 'title' | 'note' | 'takenAt' | 'world' | 'predictedMs'>;

export async function insertSnapshot(
	studio: Studio,
	{ id, title, note, takenAt, world, predictedMs }: NewSnapshot,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		`INSERT INTO snapshots (id, title, note, takenAt, status, world, predictedMs) VALUES (?, ?, ?, ?, 'running', ?, ?)`,
		[id, title, note, takenAt, world, predictedMs],
		transaction
	);
}

export async function insertItem(
	studio: Studio,
	snapshotId: string,
	item: Pick<SnapshotItem, 'deviceId' | 'versionId' | 'says' | 'settings' | 'predictedMs'> & {
		position: number;
		status: SnapshotStatus;
	},
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		`INSERT INTO snapshot_items (snapshotId, deviceId, position, versionId, status, says, settings, predictedMs)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
		[
			snapshotId,
			item.deviceId,
			item.position,
			item.versionId,
			item.status,
			item.says,
			JSON.stringify(item.settings),
			item.predictedMs
		],
		transaction
	);
}

/** Snapshots with how many of their devices were kept and how many failed, newest first. */
export const snapshotRows = (
	studio: Studio
): Promise<(Snapshot & { kept: number; failed: number; devices: number })[]> =>
	all(
		studio,
		`SELECT s.*, SUM(i.status = 'kept') AS kept, SUM(i.status IN ('failed', 'waiting')) AS failed, COUNT(i.deviceId) AS devices
		 FROM snapshots s LEFT JOIN snapshot_items i ON i.snapshotId = s.id GROUP BY s.id ORDER BY s.takenAt DESC`
	);

export const snapshotRow = (
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<Snapshot | undefined> => one(studio, 'SELECT * FROM snapshots WHERE id = ?', [id], transaction);

export async function itemRows(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<SnapshotItem[]> {
	const rows = await all<Omit<SnapshotItem, 'settings'> & { settings: string }>(
		studio,
		`SELECT i.snapshotId, i.deviceId, d.name AS device, d.place, i.versionId, i.status, i.says, i.settings, i.predictedMs, i.tookMs
		 FROM snapshot_items i JOIN devices d ON d.id = i.deviceId WHERE i.snapshotId = ? ORDER BY i.position`,
		[id],
		transaction
	);
	return rows.map((row) => ({ ...row, settings: stored(settingsSchema, parsed(row.settings)) }));
}

export async function updateItem(
	studio: Studio,
	snapshotId: string,
	deviceId: string,
	{ status, versionId, says, tookMs }: Pick<SnapshotItem, 'status' | 'versionId' | 'says' | 'tookMs'>,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'UPDATE snapshot_items SET status = ?, versionId = ?, says = ?, tookMs = ? WHERE snapshotId = ? AND deviceId = ?',
		[status, versionId, says, tookMs, snapshotId, deviceId],
		transaction
	);
}

/** Ends a snapshot, and what still waits in it. */
export async function endWaiting(
	studio: Studio,
	id: string,
	says: string,
	tookMs: number,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		`UPDATE snapshot_items SET status = 'failed', says = ? WHERE snapshotId = ? AND status = 'waiting'`,
		[says, id],
		transaction
	);
	await run(
		studio,
		`UPDATE snapshots SET status = 'ended', tookMs = COALESCE(tookMs, 0) + ? WHERE id = ?`,
		[tookMs, id],
		transaction
	);
}
