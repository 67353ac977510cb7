import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import type { Studio } from '../db/connection';
import { all, run, type Value } from './sql';

/** A table whose rows are read and written whole, as they stand. */
export interface RowTable<Row extends object> {
	table: string;
	columns: readonly (keyof Row & string)[];
	/** What tells one row from another. */
	key: readonly (keyof Row & string)[];
	/** Columns that hold JSON. */
	jsons: readonly (keyof Row & string)[];
	/** What a row is. */
	schema: z.ZodType<Row>;
	/** SQL that says which rows are meant; all where it is left out. */
	where?: string;
}

export const rowKey = <Row extends object>({ key }: RowTable<Row>, row: Row): string =>
	key.map((column) => String(row[column])).join(' ');

/** The rows of a table, and of those that are not what they should be what is wrong with them. */
export async function readRows<Row extends object>(
	studio: Studio,
	{ table, columns, key, jsons, schema, where }: RowTable<Row>,
	transaction?: Transaction
): Promise<{ rows: Row[]; torn: string[] }> {
	const stored = await all<Record<string, unknown>>(
		studio,
		`SELECT ${columns.join(', ')} FROM ${table} ${where ? `WHERE ${where}` : ''} ORDER BY ${key.join(', ')}`,
		[],
		transaction
	);
	const rows: Row[] = [];
	const torn: string[] = [];
	for (const row of stored) {
		try {
			for (const column of jsons)
				if (row[column] !== null) row[column] = JSON.parse(row[column] as string) as unknown;
			rows.push(schema.parse(row));
		} catch {
			torn.push(key.map((column) => String(row[column])).join(' '));
		}
	}
	return { rows, torn };
}

const cell = (value: unknown, isJson: boolean): Value =>
	value === null || value === undefined ? null : isJson ? JSON.stringify(value) : (value as Value);

const cellsOf = <Row extends object>(
	{ jsons }: RowTable<Row>,
	row: Row,
	columns: readonly (keyof Row & string)[]
): Value[] => columns.map((column) => cell(row[column], jsons.includes(column)));

/** Adds a row, where there is none of its key. @returns whether it was added */
export async function insertRow<Row extends object>(
	studio: Studio,
	of: RowTable<Row>,
	row: Row,
	transaction: Transaction
): Promise<boolean> {
	const { table, columns } = of;
	const added = await run(
		studio,
		`INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')}) ON CONFLICT DO NOTHING`,
		cellsOf(of, row, columns),
		transaction
	);
	return added > 0;
}

/** Writes a row over the one of its key. */
export async function replaceRow<Row extends object>(
	studio: Studio,
	of: RowTable<Row>,
	row: Row,
	transaction: Transaction
): Promise<void> {
	const { table, columns, key } = of;
	const values = columns.filter((column) => !key.includes(column));
	await run(
		studio,
		`UPDATE ${table} SET ${values.map((column) => `${column} = ?`).join(', ')} WHERE ${key.map((column) => `${column} = ?`).join(' AND ')}`,
		[...cellsOf(of, row, values), ...cellsOf(of, row, key)],
		transaction
	);
}

/** Every table of a studio's file that the app made. */
export const tableNames = async (studio: Studio): Promise<string[]> =>
	(
		await all<{ name: string }>(
			studio,
			`SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name`
		)
	).map(({ name }) => name);
