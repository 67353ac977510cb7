import type { Studio } from '../db/connection';
import { all, one, parsed, run } from './sql';

/** Procedures of the studio's own that were not taken away. */
export async function procedureRows(studio: Studio): Promise<unknown[]> {
	const rows = await all<{ document: string }>(
		studio,
		'SELECT document FROM procedures WHERE removedAt IS NULL ORDER BY id'
	);
	return rows.map(({ document }) => parsed(document));
}

export async function procedureRow(
	studio: Studio,
	id: string
): Promise<{ document: unknown; removedAt: string | null } | null> {
	const row = await one<{ document: string; removedAt: string | null }>(
		studio,
		'SELECT document, removedAt FROM procedures WHERE id = ?',
		[id]
	);
	return row ? { ...row, document: parsed(row.document) } : null;
}

/** Writes a procedure; one that was taken away is there again. */
export const putProcedure = (studio: Studio, id: string, document: unknown, at: string): Promise<void> =>
	studio.write(async (transaction) => {
		await run(
			studio,
			`INSERT INTO procedures (id, document, updatedAt) VALUES (?, ?, ?)
			 ON CONFLICT (id) DO UPDATE SET document = excluded.document, updatedAt = excluded.updatedAt, removedAt = NULL`,
			[id, JSON.stringify(document), at],
			transaction
		);
	});

export const markProcedureRemoved = (studio: Studio, id: string, at: string | null): Promise<void> =>
	studio.write(async (transaction) => {
		await run(studio, 'UPDATE procedures SET removedAt = ? WHERE id = ?', [at, id], transaction);
	});
