import type { Transaction } from 'sequelize';
import type { Studio } from './db/connection';

type Cell = string | number | null | Buffer;

/** Inserts many rows with few statements. `into` is what stands before VALUES, `how` what stands before INTO. */
export async function insertRows(
	studio: Studio,
	into: string,
	rows: Cell[][],
	transaction: Transaction,
	how: 'INSERT' | 'INSERT OR IGNORE' = 'INSERT'
): Promise<void> {
	for (let i = 0; i < rows.length; i += 80) {
		const part = rows.slice(i, i + 80);
		const marks = part.map((row) => `(${row.map(() => '?').join(',')})`).join(',');
		await studio.sequelize.query(`${how} INTO ${into} VALUES ${marks}`, {
			replacements: part.flat() as unknown[],
			transaction
		});
	}
}
