import type { Transaction } from 'sequelize';
import type { Studio } from '../db/connection';
import { all, run } from './sql';

/** Texts that many rows repeat: each is kept once, in the table `words`, and rows tell it by its number. */
export interface Words {
	text: Map<number, string>;
	number: Map<string, number>;
}

export const noWords = (): Words => ({ text: new Map(), number: new Map() });

/** A number that no text has. */
const NONE = -1;

/** Transactions that added words: until they are committed, nothing that they read is remembered. */
const adding = new WeakSet<Transaction>();

async function load(studio: Studio, where: string, of: readonly unknown[], transaction?: Transaction) {
	const rows = await all<{ id: number; text: string }>(
		studio,
		`SELECT id, text FROM words WHERE ${where} IN (SELECT value FROM json_each(?))`,
		[JSON.stringify(of)],
		transaction
	);
	if (!transaction || !adding.has(transaction))
		for (const { id, text } of rows) {
			studio.words.text.set(id, text);
			studio.words.number.set(text, id);
		}
	return rows;
}

/** The numbers of texts; those that are not kept yet are, inside a transaction, and have none outside of one. */
export async function numbersOf(
	studio: Studio,
	texts: readonly string[],
	transaction?: Transaction
): Promise<(text: string) => number> {
	const { number } = studio.words;
	const missing = [...new Set(texts)].filter((text) => !number.has(text));
	if (missing.length === 0) return (text) => number.get(text)!;
	const own = new Map((await load(studio, 'text', missing, transaction)).map(({ id, text }) => [text, id]));
	const fresh = missing.filter((text) => !own.has(text));
	if (transaction && fresh.length > 0) {
		adding.add(transaction);
		await run(
			studio,
			'INSERT OR IGNORE INTO words (text) SELECT value FROM json_each(?)',
			[JSON.stringify(fresh)],
			transaction
		);
		for (const { id, text } of await load(studio, 'text', fresh, transaction)) own.set(text, id);
	}
	return (text) => number.get(text) ?? own.get(text) ?? NONE;
}

/** Rows with the texts that stand behind the numbers in some of their columns. */
export async function told<T extends object, K extends keyof T>(
	studio: Studio,
	rows: readonly T[],
	columns: readonly K[],
	transaction?: Transaction
): Promise<(Omit<T, K> & Record<K, string>)[]> {
	const { text } = studio.words;
	const missing = new Set<number>();
	for (const row of rows)
		for (const column of columns) {
			const number = row[column] as number | null;
			if (number !== null && !text.has(number)) missing.add(number);
		}
	const own =
		missing.size === 0
			? text
			: new Map((await load(studio, 'id', [...missing], transaction)).map((row) => [row.id, row.text]));
	return rows.map((row) => {
		const out = { ...row } as Record<string, unknown>;
		for (const column of columns) {
			const number = row[column] as number | null;
			out[column as string] = number === null ? null : (text.get(number) ?? own.get(number) ?? '');
		}
		return out as Omit<T, K> & Record<K, string>;
	});
}
