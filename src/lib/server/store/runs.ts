import { QueryTypes, type Transaction } from 'sequelize';
import { foldName, type World } from '../../core/drawer';
import { slotKey, type Slot } from '../../core/profile';
import type { Studio } from '../db/connection';
import { insertRows } from './insert-rows';

/** A stay of a content in a slot, as it is stored. */
export interface Run {
	id: number;
	area: string;
	slot: number;
	record: string;
	fromAt: string;
}

/** A slot of a version, with its content's SHA-256 and when it was read. */
export interface SeenSlot {
	slot: Slot;
	record: string;
	at: string;
}

/** The stays that last, by slot. */
export async function currentRuns(
	studio: Studio,
	deviceId: string,
	world: World,
	transaction?: Transaction
): Promise<Map<string, Run>> {
	const rows = await studio.sequelize.query<Run>(
		'SELECT id, area, slot, record, fromAt FROM slot_runs WHERE deviceId = :deviceId AND world = :world AND current = 1',
		{ replacements: { deviceId, world }, type: QueryTypes.SELECT, transaction }
	);
	return new Map(rows.map((run) => [slotKey(run.area, run.slot), run]));
}

/** Ends stays: each at the time at which its slot was seen to hold something else. */
export async function endRuns(
	studio: Studio,
	ended: readonly { id: number; at: string }[],
	transaction: Transaction
): Promise<void> {
	const byTime = new Map<string, number[]>();
	for (const { id, at } of ended) byTime.set(at, [...(byTime.get(at) ?? []), id]);
	for (const [at, ids] of byTime)
		await studio.sequelize.query('UPDATE slot_runs SET toAt = :at, current = 0 WHERE id IN (:ids)', {
			replacements: { at, ids },
			transaction
		});
}

/** Begins stays; with `moment`, they are noted as seen at that time and no longer. */
export async function beginRuns(
	studio: Studio,
	of: { deviceId: string; versionId: string; world: World; moment: boolean },
	seen: readonly SeenSlot[],
	transaction: Transaction
): Promise<void> {
	await insertRows(
		studio,
		'slot_runs (deviceId, world, area, slot, label, name, folded, record, fromVersion, fromAt, toAt, current)',
		seen.map(({ slot, record, at }) => [
			of.deviceId,
			of.world,
			slot.area,
			slot.index,
			slot.label,
			slot.name,
			foldName(slot.name ?? ''),
			record,
			of.versionId,
			at,
			of.moment ? at : null,
			of.moment ? 0 : 1
		]),
		transaction
	);
}

/** Forgets the moments that a version was noted for, before its slots are taken in. */
export async function dropMoments(
	studio: Studio,
	versionId: string,
	transaction: Transaction
): Promise<void> {
	await studio.sequelize.query(
		'DELETE FROM slot_runs WHERE fromVersion = :versionId AND current = 0 AND toAt = fromAt',
		{ replacements: { versionId }, transaction }
	);
}
