import type { Transaction } from 'sequelize';
import type { Studio } from '../db/connection';
import { toMs, type Value } from './sql';
import { numbersOf } from './words';

/** How what is told of a thing is written in the columns of its table. */
export interface Shape {
	/** Columns that have another name than what they tell. */
	names: Record<string, string>;
	/** Columns that hold the number of a word; what is no text is one as JSON. */
	words: readonly string[];
	/** Columns that hold milliseconds since 1970. */
	times: readonly string[];
	/** Columns that hold JSON. */
	jsons: readonly string[];
}

/** A column, and what it holds. */
export type Column = [name: string, value: Value];

/** What is told of a thing or a part of it, as its columns hold it. Words that are not kept yet are. */
export async function toColumns(
	studio: Studio,
	values: object,
	{ names, words, times, jsons }: Shape,
	transaction: Transaction
): Promise<Column[]> {
	const entries = Object.entries(values).map(([key, value]): [string, unknown] => [names[key] ?? key, value]);
	const word = (value: unknown) => (typeof value === 'string' ? value : JSON.stringify(value));
	const number = await numbersOf(
		studio,
		entries.flatMap(([column, value]) => (words.includes(column) && value !== null ? [word(value)] : [])),
		transaction
	);
	return entries.map(([column, value]): Column => {
		if (value === null) return [column, null];
		if (words.includes(column)) return [column, number(word(value))];
		if (times.includes(column)) return [column, toMs(value as string)];
		if (jsons.includes(column)) return [column, JSON.stringify(value)];
		return [column, typeof value === 'boolean' ? Number(value) : (value as Value)];
	});
}
