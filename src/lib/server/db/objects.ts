import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { QueryTypes, type Transaction } from 'sequelize';
import { Problem } from '../../core/problem';
import type { Studio } from './connection';
import type { ObjectRow } from './models';
import { hashOf } from '../hash';
import { insertRows } from '../insert-rows';

/** A delta pays when it is this much smaller than the content. */
const DELTA_LIMIT = 0.25;

/** The bytes that differ, by XOR: two dumps of one device are alike in length and nearly in content. */
function xor(a: Uint8Array, b: Uint8Array): Uint8Array {
	const out = new Uint8Array(a.length);
	for (let i = 0; i < a.length; i++) out[i] = a[i] ^ b[i];
	return out;
}

/** Content to be stored; `like` names an object that is probably similar, or null. */
export interface NewObject {
	bytes: Uint8Array;
	like: string | null;
}

const columns = 'SELECT hash, size, form, base, data FROM objects WHERE hash IN (:list)';

/**
 * Stores contents once, each under its SHA-256, and gives these in order. Content of the same length as an object that
 * it is like (the same message of the device's previous version) is kept as the difference to it. A difference is
 * always to a whole object, never to another difference, so that reading takes two steps at most. Three statements,
 * however many there are.
 */
export async function putObjects(
	studio: Studio,
	contents: readonly NewObject[],
	transaction: Transaction
): Promise<string[]> {
	const hashes = contents.map(({ bytes }) => hashOf(bytes));
	const select = async <T extends object>(sql: string, list: string[]): Promise<T[]> => {
		const rows: T[] = [];
		for (let i = 0; i < list.length; i += 500)
			rows.push(
				...(await studio.sequelize.query<T>(sql, {
					replacements: { list: list.slice(i, i + 500) },
					type: QueryTypes.SELECT,
					transaction
				}))
			);
		return rows;
	};
	const present = new Set(
		(
			await select<{ hash: string }>('SELECT hash FROM objects WHERE hash IN (:list)', [...new Set(hashes)])
		).map(({ hash }) => hash)
	);
	const fresh = new Map<string, NewObject>();
	contents.forEach((content, i) => {
		if (!present.has(hashes[i])) fresh.set(hashes[i], content);
	});
	if (fresh.size === 0) return hashes;
	const bases = new Map<string, ObjectRow>();
	const likes = [...fresh.values()].flatMap(({ bytes, like }) => (like && bytes.length > 256 ? [like] : []));
	for (const row of await select<ObjectRow>(columns, [...new Set(likes)])) bases.set(row.hash, row);
	const deeper = [...bases.values()].flatMap(({ base }) => (base && !bases.has(base) ? [base] : []));
	for (const row of await select<ObjectRow>(columns, [...new Set(deeper)])) bases.set(row.hash, row);
	const expanded = new Map<string, Uint8Array>();
	const whole = (row: ObjectRow) => {
		let bytes = expanded.get(row.hash);
		if (!bytes) expanded.set(row.hash, (bytes = expand(row)));
		return bytes;
	};
	const rows = [...fresh].map(([hash, { bytes, like }]): ObjectRow => {
		const near = like && bytes.length > 256 ? bases.get(like) : undefined;
		const base = near?.base ? bases.get(near.base) : near;
		if (base && base.size === bytes.length) {
			const data = deflateRawSync(xor(bytes, whole(base)));
			if (data.length < bytes.length * DELTA_LIMIT)
				return { hash, size: bytes.length, form: 'delta', base: base.hash, data };
		}
		const packed = deflateRawSync(bytes);
		return packed.length < bytes.length
			? { hash, size: bytes.length, form: 'deflate', base: null, data: packed }
			: { hash, size: bytes.length, form: 'plain', base: null, data: Buffer.from(bytes) };
	});
	await insertRows(
		studio,
		'objects (hash, size, form, base, data)',
		rows.map(({ hash, size, form, base, data }) => [hash, size, form, base, data]),
		transaction
	);
	return hashes;
}

/**
 * The objects of a device's newest version, as candidates to be similar to: gives the hash for the message at a place
 * and of a length, or null.
 */
export async function similarObjects(
	studio: Studio,
	deviceId: string,
	transaction: Transaction
): Promise<(position: number, length: number) => string | null> {
	const newest = await studio.sequelize.query<{ hash: string; size: number }>(
		`SELECT m.hash, o.size FROM version_messages m JOIN objects o ON o.hash = m.hash
		 WHERE m.versionId = (SELECT id FROM versions WHERE deviceId = :deviceId ORDER BY seq DESC LIMIT 1) ORDER BY m.position`,
		{ replacements: { deviceId }, type: QueryTypes.SELECT, transaction }
	);
	return (position, length) => {
		const found =
			newest[position]?.size === length ? newest[position] : newest.find(({ size }) => size === length);
		return found?.hash ?? null;
	};
}

const expand = (row: ObjectRow): Uint8Array => (row.form === 'deflate' ? inflateRawSync(row.data) : row.data);

const damaged = (hash: string, why: string) =>
	new Problem(
		'object.damaged',
		`The stored message ${hash.slice(0, 12)} is damaged: ${why}.`,
		'Run “check” to see which versions it belongs to, and take a new backup while the device still holds its sounds.',
		{ hash }
	);

/** The objects of these hashes, each checked against its name. @throws Problem `object.damaged` */
export async function getObjects(
	studio: Studio,
	hashes: readonly string[],
	transaction?: Transaction
): Promise<Uint8Array[]> {
	const wanted = [...new Set(hashes)];
	const rows = new Map<string, ObjectRow>();
	const fetch = async (list: string[]) => {
		for (let i = 0; i < list.length; i += 500) {
			const found = await studio.sequelize.query<ObjectRow>(
				'SELECT hash, size, form, base, data FROM objects WHERE hash IN (:list)',
				{
					replacements: { list: list.slice(i, i + 500) },
					type: QueryTypes.SELECT,
					transaction
				}
			);
			for (const row of found) rows.set(row.hash, row);
		}
	};
	await fetch(wanted);
	await fetch([
		...new Set([...rows.values()].flatMap(({ base }) => (base && !rows.has(base) ? [base] : [])))
	]);
	const read = new Map<string, Uint8Array>();
	for (const hash of wanted) read.set(hash, readObject(rows, hash));
	return hashes.map((hash) => read.get(hash)!);
}

function readObject(rows: Map<string, ObjectRow>, hash: string): Uint8Array {
	const row = rows.get(hash);
	if (!row) throw damaged(hash, 'it is not there');
	let bytes: Uint8Array;
	try {
		if (row.form === 'delta') {
			const base = rows.get(row.base!);
			if (!base) throw damaged(hash, 'the message that it builds on is not there');
			bytes = xor(inflateRawSync(row.data), expand(base));
		} else bytes = Uint8Array.from(expand(row));
	} catch (error) {
		if (error instanceof Problem) throw error;
		throw damaged(hash, error instanceof Error ? error.message : String(error));
	}
	if (hashOf(bytes) !== hash) throw damaged(hash, 'its content does not match its name');
	return bytes;
}
