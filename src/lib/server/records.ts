import { QueryTypes, type Transaction } from 'sequelize';
import { foldName } from '../core/drawer';
import { Problem } from '../core/problem';
import type { Slot } from '../core/profile';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { hashOf } from './hash';
import { insertRows } from './insert-rows';

/** A sound by itself: the content of a slot. */
export interface StoredRecord {
	hash: string;
	name: string | null;
	bytes: Uint8Array;
}

/** Keeps what slots held, each content once. `record` is its SHA-256. */
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
		'INSERT OR IGNORE'
	);
}

/** Contents by hash. Hashes that are not kept are left out. */
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
		for (const { hash, bytes } of rows) found.set(hash, Uint8Array.from(bytes));
	}
	return found;
}

/** All sounds of one area of a model. */
export async function recordsOf(studio: Studio, profileId: string, area: string): Promise<StoredRecord[]> {
	const rows = await studio.sequelize.query<{ hash: string; name: string | null; bytes: Buffer }>(
		'SELECT hash, name, bytes FROM records WHERE profileId = :profileId AND area = :area',
		{ replacements: { profileId, area }, type: QueryTypes.SELECT }
	);
	return rows.map(({ hash, name, bytes }) => ({ hash, name, bytes: Uint8Array.from(bytes) }));
}

/** How many sounds are kept, by `profile area`. */
export async function countRecords(studio: Studio): Promise<Map<string, number>> {
	const rows = await studio.sequelize.query<{ profileId: string; area: string; n: number }>(
		'SELECT profileId, area, COUNT(*) AS n FROM records GROUP BY profileId, area',
		{ type: QueryTypes.SELECT }
	);
	return new Map(rows.map(({ profileId, area, n }) => [`${profileId} ${area}`, n]));
}

/**
 * Keeps the sounds of versions that were stored before sounds were kept by themselves. A version that cannot be read
 * is left to `check`, which names it.
 */
export async function indexRecords(studio: Studio): Promise<number> {
	const open = await studio.sequelize.query<{ fromVersion: string }>(
		`SELECT DISTINCT r.fromVersion FROM slot_runs r WHERE NOT EXISTS (SELECT 1 FROM records k WHERE k.hash = r.record)`,
		{ type: QueryTypes.SELECT }
	);
	let indexed = 0;
	for (const { fromVersion } of open) {
		try {
			const { profile, slots } = await openVersion(studio, fromVersion);
			if (!profile) continue;
			await studio.write((transaction) =>
				keepRecords(
					studio,
					profile.id,
					slots.map((slot) => ({ slot, record: hashOf(slot.bytes) })),
					transaction
				)
			);
			indexed++;
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			console.error(`A version could not be read: ${error.message}`);
		}
	}
	return indexed;
}
