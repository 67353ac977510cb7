import type { Transaction } from 'sequelize';
import { z } from 'zod';
import { bankDocumentSchema, type Bank } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { all, one, parsed, run, stored } from './sql';

type Stored = Omit<Bank, 'document' | 'base'> & { document: string; base: string | null };

const baseSchema = z.array(z.string().nullable()).nullable();

const fromRow = (row: Stored): Bank => ({
	...row,
	document: stored(bankDocumentSchema, parsed(row.document)),
	base: stored(baseSchema, parsed(row.base))
});

const json = (value: unknown) => (value === null ? null : JSON.stringify(value));

/** Banks, the one that was changed last first. */
export async function bankRows(studio: Studio, deviceId?: string): Promise<Bank[]> {
	const rows = await all<Stored>(
		studio,
		`SELECT * FROM banks ${deviceId ? 'WHERE deviceId = ?' : ''} ORDER BY updatedAt DESC`,
		deviceId ? [deviceId] : []
	);
	return rows.map(fromRow);
}

export async function bankRow(studio: Studio, id: string, transaction?: Transaction): Promise<Bank | null> {
	const row = await one<Stored>(studio, 'SELECT * FROM banks WHERE id = ?', [id], transaction);
	return row ? fromRow(row) : null;
}

export async function insertBank(studio: Studio, bank: Bank, transaction: Transaction): Promise<void> {
	await run(
		studio,
		'INSERT INTO banks (id, deviceId, baseVersionId, base, document, revision, createdAt, updatedAt) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
		[
			bank.id,
			bank.deviceId,
			bank.baseVersionId,
			json(bank.base),
			JSON.stringify(bank.document),
			bank.revision,
			bank.createdAt,
			bank.updatedAt
		],
		transaction
	);
}

/** Stores what a bank holds now, as its next revision; tells whether it still was at `revision`. */
export async function updateDocument(
	studio: Studio,
	{ id, revision, document, updatedAt }: Pick<Bank, 'id' | 'revision' | 'document' | 'updatedAt'>,
	transaction: Transaction
): Promise<boolean> {
	const changed = await run(
		studio,
		'UPDATE banks SET document = ?, revision = revision + 1, updatedAt = ? WHERE id = ? AND revision = ?',
		[JSON.stringify(document), updatedAt, id, revision],
		transaction
	);
	return changed > 0;
}

export async function updateBase(
	studio: Studio,
	id: string,
	base: Bank['base'],
	transaction: Transaction
): Promise<void> {
	await run(studio, 'UPDATE banks SET base = ? WHERE id = ?', [json(base), id], transaction);
}

export async function deleteBank(studio: Studio, id: string, transaction: Transaction): Promise<void> {
	await run(studio, 'DELETE FROM banks WHERE id = ?', [id], transaction);
}
