import type { Transaction } from 'sequelize';
import type { World } from '../../core/drawer';
import { slotKey, type Slot } from '../../core/profile';
import type { Studio } from '../db/connection';
import { hasHash, hashText } from './hashes';
import { kindOf } from './records';
import { all, run, toMs, toTime } from './sql';
import { numbersOf, told } from './words';

/** A stay of a content in a slot, as it is stored. */
export interface Run {
	id: number;
	area: string;
	slot: number;
	/** SHA-256 of the content, and its number among the sounds. */
	record: string;
	sound: number;
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
	const number = await numbersOf(studio, [deviceId, world], transaction);
	const rows = await all<{
		id: number;
		area: number;
		slot: number;
		sound: number;
		hash: Buffer;
		fromAt: number;
	}>(
		studio,
		`SELECT r.id, r.area, r.slot, r.record AS sound, k.hash, r.fromAt
		 FROM slot_runs r JOIN records k ON k.id = r.record WHERE r.device = ? AND r.world = ? AND r.current = 1`,
		[number(deviceId), number(world)],
		transaction
	);
	return new Map(
		(await told(studio, rows, ['area'], transaction)).map(({ hash, fromAt, ...row }) => [
			slotKey(row.area, row.slot),
			{ ...row, record: hashText(hash), fromAt: toTime(fromAt) }
		])
	);
}

/** Ends stays: each at the time at which its slot was seen to hold something else. */
export async function endRuns(
	studio: Studio,
	ended: readonly { id: number; at: string }[],
	transaction: Transaction
): Promise<void> {
	if (ended.length === 0) return;
	await run(
		studio,
		`UPDATE slot_runs SET toAt = j.value ->> 1, current = 0 FROM json_each(?) j WHERE slot_runs.id = j.value ->> 0`,
		[JSON.stringify(ended.map(({ id, at }) => [id, toMs(at)]))],
		transaction
	);
}

/**
 * Begins stays of contents that are kept among the sounds of a model; with `moment`, they are noted as seen at that time
 * and no longer.
 */
export async function beginRuns(
	studio: Studio,
	of: { deviceId: string; versionId: string; world: World; profileId: string; moment: boolean },
	seen: readonly SeenSlot[],
	transaction: Transaction
): Promise<void> {
	if (seen.length === 0) return;
	const number = await numbersOf(
		studio,
		[
			of.deviceId,
			of.world,
			...seen.flatMap(({ slot }) => [slot.area, slot.label, kindOf(of.profileId, slot.area)])
		],
		transaction
	);
	const begun = await run(
		studio,
		`INSERT INTO slot_runs (device, world, area, slot, label, record, version, fromAt, toAt, current)
		 SELECT ?2, ?3, j.value ->> 0, j.value ->> 1, j.value ->> 2, k.id, (SELECT v.seq FROM versions v WHERE v.id = ?4),
			j.value ->> 3, CASE WHEN ?5 THEN j.value ->> 3 END, NOT ?5
		 FROM json_each(?1) j CROSS JOIN records k INDEXED BY records_by_hash
			ON ${hasHash('k', 'j.value ->> 5')} AND k.kind = j.value ->> 4`,
		[
			JSON.stringify(
				seen.map(({ slot, record, at }) => [
					number(slot.area),
					slot.index,
					number(slot.label),
					toMs(at),
					number(kindOf(of.profileId, slot.area)),
					record
				])
			),
			number(of.deviceId),
			number(of.world),
			of.versionId,
			of.moment ? 1 : 0
		],
		transaction
	);
	if (begun !== seen.length) throw new Error(`${seen.length - begun} contents of slots are not kept.`);
}

/** Forgets the moments that a version was noted for, before its slots are taken in. */
export async function dropMoments(
	studio: Studio,
	versionId: string,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'DELETE FROM slot_runs WHERE version = (SELECT seq FROM versions WHERE id = ?) AND current = 0 AND toAt = fromAt',
		[versionId],
		transaction
	);
}

/** Takes away all stays of a device, to be told anew by its versions. */
export async function dropRuns(studio: Studio, deviceId: string, transaction: Transaction): Promise<void> {
	const number = await numbersOf(studio, [deviceId], transaction);
	await run(studio, 'DELETE FROM slot_runs WHERE device = ?', [number(deviceId)], transaction);
}
