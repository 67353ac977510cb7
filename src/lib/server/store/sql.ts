import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import type { Database, Statement } from 'sqlite3';
import type { Studio } from '../db/connection';
import { saysDamaged, tornFile } from '../db/damage';

/** What a parameter may be. Lists go in as JSON and come apart in `json_each`, so that one statement serves any number. */
export type Value = string | number | null | Uint8Array;

/** Statements of each connection, prepared once. */
const prepared = new WeakMap<Database, Map<string, Promise<Statement>>>();

/** The connection of a transaction, or the one for reading outside of any. @throws Error where the transaction is over */
async function database(studio: Studio, transaction?: Transaction): Promise<Database> {
	if (!transaction)
		return (await studio.sequelize.connectionManager.getConnection({ type: 'read' })) as Database;
	const { connection, finished } = transaction as Transaction & { connection: Database; finished?: string };
	if (finished) throw new Error('This transaction is over.');
	return connection;
}

/** What SQLite says of damage in the studio's file, as a problem; other errors stay as they are. */
const asProblem = (error: Error): Error => (saysDamaged(error) ? tornFile(error.message) : error);

function statement(of: Database, sql: string): Promise<Statement> {
	let own = prepared.get(of);
	if (!own) prepared.set(of, (own = new Map()));
	let found = own.get(sql);
	if (!found) {
		found = new Promise((resolve, reject) => {
			const made = of.prepare(sql, (error: Error | null) => {
				if (error) {
					own.delete(sql);
					reject(asProblem(error));
				} else resolve(made);
			});
		});
		own.set(sql, found);
	}
	return found;
}

/** Lets a connection's statements go, so that it can be closed. */
export async function forget(of: Database): Promise<void> {
	const own = prepared.get(of);
	prepared.delete(of);
	for (const each of own?.values() ?? []) {
		const made = await each.catch(() => null);
		if (made) await new Promise<void>((done) => made.finalize(() => done()));
	}
}

/** The rows that a statement gives, in order. */
export async function all<T extends object>(
	studio: Studio,
	sql: string,
	values: readonly Value[] = [],
	transaction?: Transaction
): Promise<T[]> {
	const of = await database(studio, transaction);
	const made = await statement(of, sql);
	return new Promise((resolve, reject) => {
		made.all<T>(values, (error, rows) => (error ? reject(asProblem(error)) : resolve(rows)));
	});
}

/** The first row that a statement gives, or undefined. */
export async function one<T extends object>(
	studio: Studio,
	sql: string,
	values: readonly Value[] = [],
	transaction?: Transaction
): Promise<T | undefined> {
	return (await all<T>(studio, sql, values, transaction))[0];
}

/** Runs a statement that gives nothing back; tells how many rows it changed. */
export async function run(
	studio: Studio,
	sql: string,
	values: readonly Value[] = [],
	transaction?: Transaction
): Promise<number> {
	const of = await database(studio, transaction);
	const made = await statement(of, sql);
	return new Promise((resolve, reject) => {
		made.run(values, function (error) {
			if (error) reject(asProblem(error));
			else resolve(this.changes);
		});
	});
}

/** Bytes inside a JSON parameter, for `unhex`. */
export const hexOf = (bytes: Uint8Array): string =>
	Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('hex');

/** What a column of JSON holds. @throws Problem `studio.torn` */
export function parsed(text: string | null): unknown {
	if (text === null) return null;
	try {
		return JSON.parse(text);
	} catch (error) {
		throw tornFile(error instanceof Error ? error.message : String(error));
	}
}

/** What was stored by a schema and is read by it again. @throws Problem `studio.torn` where it is something else now */
export function stored<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
	const read = schema.safeParse(value);
	if (read.success) return read.data;
	throw tornFile(`${read.error.issues[0].path.join('.')}: ${read.error.issues[0].message}`);
}

/** Times are kept as milliseconds since 1970 and told as ISO 8601, UTC. */
export const toMs = (at: string): number => Date.parse(at);
/** @throws Problem `studio.torn` where that is no time */
export function toTime(ms: number): string {
	const time = new Date(ms);
	if (Number.isNaN(time.getTime())) throw tornFile(`${ms} is no time`);
	return time.toISOString();
}
export const toTimeOrNull = (ms: number | null): string | null => (ms === null ? null : toTime(ms));
