import type { Transaction } from 'sequelize';
import type { Studio } from '../db/connection';

type Cell = string | number | null | Buffer;

/** Inserts many rows with few statements. `into` is what stands before VALUES, `conflict` what comes after them. */
export async function insertRows(
	studio: Studio,
	into: string,
	rows: Cell[][],
	transaction: Transaction,
	conflict = ''
): Promise<void> {
	for (let i = 0; i < rows.length; i += 80) {
		const part = rows.slice(i, i + 80);
		const marks = part.map((row) => `(${row.map(() => '?').join(',')})`).join(',');
		await studio.sequelize.query(`INSERT INTO ${into} VALUES ${marks} ${conflict}`, {
			replacements: part.flat() as unknown[],
			transaction
		});
	}
}
