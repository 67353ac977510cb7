import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { QueryTypes, type Transaction } from 'sequelize';
import { sameBytes } from '../../core/midi';
import { Problem } from '../../core/problem';
import type { Studio } from '../db/connection';
import type { ObjectRow } from '../db/models';
import { hashOf } from '../hash';
import { insertRows } from './insert-rows';

/** A delta pays when it is this much smaller than the content. */
const DELTA_LIMIT = 0.25;
/** Content shorter than this is kept whole. */
const DELTA_FROM = 257;

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

/** Rows by hash, with those that they build on. */
async function loadRows(
	studio: Studio,
	hashes: readonly string[],
	transaction?: Transaction
): Promise<Map<string, ObjectRow>> {
	const rows = new Map<string, ObjectRow>();
	const fetch = async (list: string[]) => {
		for (let i = 0; i < list.length; i += 500)
			for (const row of await studio.sequelize.query<ObjectRow>(
				'SELECT hash, size, form, base, data FROM objects WHERE hash IN (:list)',
				{ replacements: { list: list.slice(i, i + 500) }, type: QueryTypes.SELECT, transaction }
			))
				rows.set(row.hash, row);
	};
	await fetch([...new Set(hashes)]);
	await fetch([
		...new Set([...rows.values()].flatMap(({ base }) => (base && !rows.has(base) ? [base] : [])))
	]);
	return rows;
}

/**
 * Stores contents once, each under its SHA-256, and gives these in order. Content of the same length as an object that
 * it is like (the same message of the device's previous version) is kept as the difference to it. A difference is
 * always to a whole object, never to another difference, so that reading takes two steps at most. What is there
 * already is compared with the content; where it is damaged it is replaced, and what builds on it is whole again.
 */
export async function putObjects(
	studio: Studio,
	contents: readonly NewObject[],
	transaction: Transaction
): Promise<string[]> {
	const hashes = contents.map(({ bytes }) => hashOf(bytes));
	const likes = contents.flatMap(({ bytes, like }) => (like && bytes.length >= DELTA_FROM ? [like] : []));
	const rows = await loadRows(studio, [...hashes, ...likes], transaction);

	const sound = new Map<string, Uint8Array | null>();
	/** The whole object that content like this may build on, if it is undamaged. */
	const soundBase = (like: string | null): { hash: string; bytes: Uint8Array } | null => {
		const near = like ? rows.get(like) : undefined;
		const hash = near?.base ?? near?.hash;
		if (!hash) return null;
		if (!sound.has(hash)) sound.set(hash, tryRead(rows, hash));
		const bytes = sound.get(hash)!;
		return bytes && rows.get(hash)!.form !== 'delta' ? { hash, bytes } : null;
	};

	const fresh = new Map<string, ObjectRow>();
	const broken = new Map<string, ObjectRow>();
	contents.forEach(({ bytes, like }, i) => {
		const hash = hashes[i];
		if (fresh.has(hash) || broken.has(hash)) return;
		if (!rows.has(hash)) {
			fresh.set(hash, pack(hash, bytes, bytes.length >= DELTA_FROM ? soundBase(like) : null));
			return;
		}
		const stored = tryRead(rows, hash, false);
		if (!stored || !sameBytes(stored, bytes)) broken.set(hash, pack(hash, bytes, null));
	});
	await insertRows(
		studio,
		'objects (hash, size, form, base, data)',
		[...fresh.values()].map(({ hash, size, form, base, data }) => [hash, size, form, base, data]),
		transaction
	);
	for (const { hash, size, form, data } of broken.values()) {
		await studio.sequelize.query(
			'UPDATE objects SET size = ?, form = ?, base = NULL, data = ? WHERE hash = ?',
			{
				replacements: [size, form, data, hash],
				transaction
			}
		);
		await studio.sequelize.query('DELETE FROM quarantine WHERE hash = ?', {
			replacements: [hash],
			transaction
		});
	}
	return hashes;
}

/** Content as the row that holds it in the least room. */
function pack(hash: string, bytes: Uint8Array, base: { hash: string; bytes: Uint8Array } | null): ObjectRow {
	const row = { hash, size: bytes.length };
	if (base?.bytes.length === bytes.length) {
		const data = deflateRawSync(xor(bytes, base.bytes));
		if (data.length < bytes.length * DELTA_LIMIT) return { ...row, form: 'delta', base: base.hash, data };
	}
	const packed = deflateRawSync(bytes);
	return packed.length < bytes.length
		? { ...row, form: 'deflate', base: null, data: packed }
		: { ...row, form: 'plain', base: null, data: Buffer.from(bytes) };
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
	// Of the newest few: the newest may be a read-back of one slot.
	const newest = await studio.sequelize.query<{ hash: string; size: number; position: number }>(
		`SELECT m.hash, o.size, m.position FROM (SELECT id, seq FROM versions WHERE deviceId = :deviceId ORDER BY takenAt DESC, seq DESC LIMIT 3) v
		 JOIN version_messages m ON m.versionId = v.id JOIN objects o ON o.hash = m.hash ORDER BY v.seq DESC, m.position`,
		{ replacements: { deviceId }, type: QueryTypes.SELECT, transaction }
	);
	return (position, length) => {
		const fitting = newest.filter(({ size }) => size === length);
		return (fitting.find((candidate) => candidate.position === position) ?? fitting[0])?.hash ?? null;
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
	const rows = await loadRows(studio, hashes, transaction);
	const read = new Map<string, Uint8Array>();
	for (const hash of hashes) if (!read.has(hash)) read.set(hash, readObject(rows, hash));
	return hashes.map((hash) => read.get(hash)!);
}

/** As `readObject`, or null where it is damaged. */
function tryRead(rows: Map<string, ObjectRow>, hash: string, hashed = true): Uint8Array | null {
	try {
		return readObject(rows, hash, hashed);
	} catch (error) {
		if (error instanceof Problem) return null;
		throw error;
	}
}

function readObject(rows: Map<string, ObjectRow>, hash: string, hashed = true): Uint8Array {
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
	if (hashed && hashOf(bytes) !== hash) throw damaged(hash, 'its content does not match its name');
	return bytes;
}
