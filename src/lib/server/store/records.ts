import { QueryTypes, type Transaction } from 'sequelize';
import { foldName } from '../../core/drawer';
import { Problem } from '../../core/problem';
import type { Slot } from '../../core/profile';
import type { Studio } from '../db/connection';
import { hashOf } from '../hash';
import { insertRows } from './insert-rows';

/** A sound by itself: the content of a slot. */
export interface StoredRecord {
	hash: string;
	name: string | null;
	bytes: Uint8Array;
}

/** Keeps what slots held, each content once; what is there damaged is replaced. `record` is its SHA-256. */
export async function keepRecords(
	studio: Studio,
	profileId: string,
	slots: readonly { slot: Slot; record: string }[],
	transaction: Transaction
): Promise<void> {
	await insertRows(
		studio,
		'records (profileId, area, hash, name, folded, bytes)',
		slots.map(({ slot, record }) => [
			profileId,
			slot.area,
			record,
			slot.name,
			foldName(slot.name ?? ''),
			Buffer.from(slot.bytes)
		]),
		transaction,
		'ON CONFLICT (profileId, area, hash) DO UPDATE SET bytes = excluded.bytes WHERE bytes <> excluded.bytes'
	);
}

const damaged = (hash: string) =>
	new Problem(
		'record.damaged',
		`The stored sound ${hash.slice(0, 12)} is damaged: its content does not match its name.`,
		'Run “check”: it takes the sound anew from the versions that hold it.',
		{ hash }
	);

/** Contents by hash, each checked against it. Hashes that are not kept are left out. @throws Problem `record.damaged` */
export async function getRecords(
	studio: Studio,
	hashes: readonly string[]
): Promise<Map<string, Uint8Array>> {
	const found = new Map<string, Uint8Array>();
	const wanted = [...new Set(hashes)];
	for (let i = 0; i < wanted.length; i += 500) {
		const rows = await studio.sequelize.query<{ hash: string; bytes: Buffer }>(
			'SELECT hash, bytes FROM records WHERE hash IN (:list)',
			{ replacements: { list: wanted.slice(i, i + 500) }, type: QueryTypes.SELECT }
		);
		for (const { hash, bytes } of rows) {
			if (hashOf(bytes) !== hash) throw damaged(hash);
			found.set(hash, Uint8Array.from(bytes));
		}
	}
	return found;
}

/** All undamaged sounds of one area of a model; damaged ones are named by `check`. */
export async function recordsOf(studio: Studio, profileId: string, area: string): Promise<StoredRecord[]> {
	const rows = await studio.sequelize.query<{ hash: string; name: string | null; bytes: Buffer }>(
		'SELECT hash, name, bytes FROM records WHERE profileId = :profileId AND area = :area',
		{ replacements: { profileId, area }, type: QueryTypes.SELECT }
	);
	return rows
		.filter(({ hash, bytes }) => hashOf(bytes) === hash)
		.map(({ hash, name, bytes }) => ({ hash, name, bytes: Uint8Array.from(bytes) }));
}

/** How many sounds are kept, by `profile area`. */
export async function countRecords(studio: Studio): Promise<Map<string, number>> {
	const rows = await studio.sequelize.query<{ profileId: string; area: string; n: number }>(
		'SELECT profileId, area, COUNT(*) AS n FROM records GROUP BY profileId, area',
		{ type: QueryTypes.SELECT }
	);
	return new Map(rows.map(({ profileId, area, n }) => [`${profileId} ${area}`, n]));
}

/** Every stored sound whose content does not match its name, a part of the store at a time. */
export async function* damagedRecords(studio: Studio): AsyncGenerator<{
	checked: number;
	damaged: { profileId: string; area: string; hash: string; name: string | null }[];
}> {
	let after = { profileId: '', area: '', hash: '' };
	for (;;) {
		const rows = await studio.sequelize.query<{
			profileId: string;
			area: string;
			hash: string;
			name: string | null;
			bytes: Buffer;
		}>(
			`SELECT profileId, area, hash, name, bytes FROM records WHERE (profileId, area, hash) > (:profileId, :area, :hash)
			 ORDER BY profileId, area, hash LIMIT 1000`,
			{ replacements: after, type: QueryTypes.SELECT }
		);
		if (rows.length === 0) return;
		yield {
			checked: rows.length,
			damaged: rows
				.filter(({ hash, bytes }) => hashOf(bytes) !== hash)
				.map(({ profileId, area, hash, name }) => ({ profileId, area, hash, name }))
		};
		const { profileId, area, hash } = rows.at(-1)!;
		after = { profileId, area, hash };
	}
}

/** Versions in which a sound was seen first, oldest first. */
export async function versionsOfRecord(studio: Studio, hash: string): Promise<string[]> {
	const rows = await studio.sequelize.query<{ id: string }>(
		'SELECT DISTINCT fromVersion AS id FROM slot_runs WHERE record = :hash ORDER BY fromAt',
		{ replacements: { hash }, type: QueryTypes.SELECT }
	);
	return rows.map(({ id }) => id);
}

/** Versions whose sounds are not all kept by themselves: those of studios from before they were. */
export async function versionsWithoutRecords(studio: Studio): Promise<string[]> {
	const rows = await studio.sequelize.query<{ id: string }>(
		'SELECT DISTINCT r.fromVersion AS id FROM slot_runs r WHERE NOT EXISTS (SELECT 1 FROM records k WHERE k.hash = r.record)',
		{ type: QueryTypes.SELECT }
	);
	return rows.map(({ id }) => id);
}
