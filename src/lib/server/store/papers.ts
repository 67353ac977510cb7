import type { Transaction } from 'sequelize';
import type { Studio } from '../db/connection';
import { one, parsed, run } from './sql';

/** A paper: what a studio has one of, by kind, such as its floor. */
export interface KeptPaper {
	document: unknown;
	/** Goes up with every change; 0 where nothing was ever written. */
	revision: number;
	updatedAt: string | null;
}

export async function paperRow(
	studio: Studio,
	kind: string,
	transaction?: Transaction
): Promise<KeptPaper | null> {
	const row = await one<{ document: string; revision: number; updatedAt: string }>(
		studio,
		'SELECT document, revision, updatedAt FROM papers WHERE kind = ?',
		[kind],
		transaction
	);
	return row ? { ...row, document: parsed(row.document) } : null;
}

/** The revision of a paper; 0 where nothing was ever written. */
export async function paperRevision(studio: Studio, kind: string): Promise<number> {
	const row = await one<{ revision: number }>(studio, 'SELECT revision FROM papers WHERE kind = ?', [kind]);
	return row?.revision ?? 0;
}

/** Writes a paper, as its next revision. */
export async function putPaper(
	studio: Studio,
	{ kind, document, updatedAt }: { kind: string; document: unknown; updatedAt: string },
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		`INSERT INTO papers (kind, document, revision, updatedAt) VALUES (?, ?, 1, ?)
		ON CONFLICT (kind) DO UPDATE SET document = excluded.document, revision = revision + 1,
			updatedAt = excluded.updatedAt`,
		[kind, JSON.stringify(document), updatedAt],
		transaction
	);
}
