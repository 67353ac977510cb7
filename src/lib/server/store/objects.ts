import type { Transaction } from 'sequelize';
import { sameBytes } from '../../core/midi';
import { Problem } from '../../core/problem';
import type { Studio } from '../db/connection';
import { hashOf } from '../hash';
import { eachInSteps, Turn } from '../in-steps';
import { build, over, whole, wholeOrNull, type Kept } from './chains';
import { chainsOf, fromHashes, hashText } from './hashes';
import { all, hexOf, run } from './sql';
import { numbersOf } from './words';

/** Content shorter than this is kept by itself. */
const SHORT = 64;
/**
 * Content builds on the content before it; every 64th on the one 64 before, and every 2048th on nothing. So any content
 * is built in at most 63 + 31 steps from one that is kept whole.
 */
const STRIDE = 64;
const CHAIN = 2048;

/** Content to be stored; `like` is an object that is probably similar, or null. */
export interface NewObject {
	bytes: Uint8Array;
	like: number | null;
}

/** A stored content: its number, and its name. */
export interface StoredObject {
	id: number;
	hash: string;
}

interface Row extends Kept {
	size: number;
}

const ROWS =
	'SELECT o.id, o.hash, o.size, o.form, o.base, o.place, o.data FROM chain c JOIN objects o ON o.id = c.id';
const { byHash, byId } = chainsOf('objects');

/** Rows with all that they build on, by number, and the numbers by name. */
interface Loaded {
	rows: Map<number, Row>;
	ids: Map<string, number>;
}

async function load(
	studio: Studio,
	wanted: { hashes?: readonly string[]; ids?: readonly number[] },
	transaction?: Transaction,
	into: Loaded = { rows: new Map(), ids: new Map() }
): Promise<Loaded> {
	const take = async (sql: string, of: readonly (string | number)[]) => {
		for (const row of await all<Row>(studio, `${sql} ${ROWS}`, [JSON.stringify(of)], transaction)) {
			into.rows.set(row.id, row);
			into.ids.set(hashText(row.hash), row.id);
		}
	};
	if (wanted.hashes?.length) await take(byHash, wanted.hashes);
	const ids = wanted.ids?.filter((id) => !into.rows.has(id)) ?? [];
	if (ids.length > 0) await take(byId, ids);
	return into;
}

/** What content may build on, after `like`: the one before it, or an earlier one of the same chain, or nothing. */
function baseFor({ rows }: Loaded, like: number | null): { id: number; place: number } | null {
	const near = like === null ? undefined : rows.get(like);
	if (!near || near.place + 1 >= CHAIN) return null;
	const place = near.place + 1;
	if (place % STRIDE > 0) return { id: near.id, place };
	let at: Row | undefined = near;
	while (at && at.place > place - STRIDE) at = at.base === null ? undefined : rows.get(at.base);
	return at?.place === place - STRIDE ? { id: at.id, place } : null;
}

/**
 * Stores contents once, each under its SHA-256, and gives these in order. What is there already is compared with the
 * content; where it is damaged it is replaced, and what builds on it is whole again.
 */
export async function putObjects(
	studio: Studio,
	contents: readonly NewObject[],
	transaction: Transaction
): Promise<StoredObject[]> {
	const hashes = await eachInSteps(contents, ({ bytes }) => hashOf(bytes));
	const loaded = await load(studio, { hashes }, transaction);
	const turn = new Turn();
	const fresh = new Map<string, NewObject>();
	const broken = new Map<number, Uint8Array>();
	const known = new Map<number, Uint8Array>();
	for (const [i, content] of contents.entries()) {
		if (turn.over) await turn.next();
		const id = loaded.ids.get(hashes[i]);
		if (id === undefined) fresh.set(hashes[i], content);
		else {
			const stored = wholeOrNull(loaded.rows, id, known);
			if (!stored || !sameBytes(stored, content.bytes)) broken.set(id, content.bytes);
		}
	}
	if (broken.size > 0) await heal(studio, broken, transaction);
	if (fresh.size > 0) {
		const likes = [...fresh.values()].flatMap(({ bytes, like }) =>
			like !== null && bytes.length >= SHORT ? [like] : []
		);
		await load(studio, { ids: likes }, transaction, loaded);
		const rows: unknown[][] = [];
		for (const [hash, { bytes, like }] of fresh) {
			if (turn.over) await turn.next();
			const near = bytes.length >= SHORT ? baseFor(loaded, like) : null;
			// Nothing is built on what is damaged.
			const base = near && wholeOrNull(loaded.rows, near.id, known);
			const kept = over(base && { id: near.id, bytes: base }, near?.place ?? 0, bytes);
			rows.push([hash, bytes.length, kept.form, kept.base, kept.place, hexOf(kept.data)]);
		}
		const stored = await all<{ id: number; hash: Buffer }>(
			studio,
			`INSERT INTO objects (hash, size, form, base, place, data)
			 SELECT unhex(value ->> 0), value ->> 1, value ->> 2, value ->> 3, value ->> 4, unhex(value ->> 5) FROM json_each(?)
			 RETURNING id, hash`,
			[JSON.stringify(rows)],
			transaction
		);
		for (const { id, hash } of stored) loaded.ids.set(hashText(hash), id);
	}
	return hashes.map((hash) => ({ id: loaded.ids.get(hash)!, hash }));
}

/** Puts whole contents in the place of damaged ones. */
async function heal(
	studio: Studio,
	broken: ReadonlyMap<number, Uint8Array>,
	transaction: Transaction
): Promise<void> {
	for (const [id, bytes] of broken) {
		const { form, place, data } = whole(bytes);
		await run(
			studio,
			'UPDATE objects SET size = ?, form = ?, base = NULL, place = ?, data = ? WHERE id = ?',
			[bytes.length, form, place, data, id],
			transaction
		);
		await run(studio, 'DELETE FROM quarantine WHERE hash = ?', [hashOf(bytes)], transaction);
	}
}

/**
 * The objects of a device's newest versions, as candidates to be similar to: gives the number for the message at a
 * place and of a length, or null.
 */
export async function similarObjects(
	studio: Studio,
	deviceId: string,
	transaction: Transaction
): Promise<(position: number, length: number) => number | null> {
	const worlds = ['hardware', 'bench', 'file', 'unrecorded'];
	const number = await numbersOf(studio, [deviceId, ...worlds], transaction);
	// Of the newest few of each world: the newest may be a read-back of one slot.
	const newest = await all<{ id: number; size: number; position: number }>(
		studio,
		`SELECT m.object AS id, o.size, m.position FROM versions v
		 JOIN version_messages m ON m.version = v.seq JOIN objects o ON o.id = m.object
		 WHERE v.seq IN (
			SELECT x.seq FROM json_each(?2) w CROSS JOIN versions x ON x.seq IN (
				SELECT y.seq FROM versions y WHERE y.device = ?1 AND y.world = w.value ORDER BY y.takenAt DESC, y.seq DESC LIMIT 3))
		 ORDER BY v.takenAt DESC, v.seq DESC, m.position`,
		[number(deviceId), JSON.stringify(worlds.map(number))],
		transaction
	);
	const byPlace = new Map<string, number>();
	const byLength = new Map<number, number>();
	for (const { id, size, position } of newest) {
		const place = `${position} ${size}`;
		if (!byPlace.has(place)) byPlace.set(place, id);
		if (!byLength.has(size)) byLength.set(size, id);
	}
	return (position, length) => byPlace.get(`${position} ${length}`) ?? byLength.get(length) ?? null;
}

const damaged = (hash: string, why: string) =>
	new Problem(
		'object.damaged',
		`The stored message ${hash.slice(0, 12)} is damaged: ${why}.`,
		'Run “check” to see which versions it belongs to, and take a new backup while the device still holds its sounds.',
		{ hash }
	);

/** The objects of these hashes, each checked against its name: its content, or Problem `object.damaged`. */
export async function readObjects(
	studio: Studio,
	hashes: readonly string[],
	transaction?: Transaction
): Promise<Map<string, Uint8Array | Problem>> {
	const wanted = [...new Set(hashes)];
	const { rows, ids } = await load(studio, { hashes: wanted }, transaction);
	const known = new Map<number, Uint8Array>();
	const read = (hash: string): Uint8Array | Problem => {
		const id = ids.get(hash);
		if (id === undefined) return damaged(hash, 'it is not there');
		try {
			const bytes = build(rows, id, known);
			return hashOf(bytes) === hash ? bytes : damaged(hash, 'its content does not match its name');
		} catch (error) {
			return damaged(hash, error instanceof Error ? error.message : String(error));
		}
	};
	return new Map(wanted.map((hash) => [hash, read(hash)]));
}

/** The objects of these hashes, in order, each checked against its name. @throws Problem `object.damaged` */
export async function getObjects(
	studio: Studio,
	hashes: readonly string[],
	transaction?: Transaction
): Promise<Uint8Array[]> {
	const read = await readObjects(studio, hashes, transaction);
	return hashes.map((hash) => {
		const found = read.get(hash)!;
		if (found instanceof Problem) throw found;
		return found;
	});
}

/** Which of these contents are stored, by name. */
export async function storedObjects(
	studio: Studio,
	hashes: readonly string[],
	transaction?: Transaction
): Promise<Map<string, number>> {
	const rows = await all<{ id: number; hash: Buffer }>(
		studio,
		`SELECT o.id, o.hash FROM ${fromHashes('objects', 'o')}`,
		[JSON.stringify([...new Set(hashes)])],
		transaction
	);
	return new Map(rows.map(({ id, hash }) => [hashText(hash), id]));
}

/** The names of contents, by number. */
export async function namesOfObjects(
	studio: Studio,
	ids: readonly number[],
	transaction?: Transaction
): Promise<Map<number, string>> {
	const rows = await all<{ id: number; hash: Buffer }>(
		studio,
		'SELECT id, hash FROM objects WHERE id IN (SELECT value FROM json_each(?))',
		[JSON.stringify([...new Set(ids)])],
		transaction
	);
	return new Map(rows.map(({ id, hash }) => [id, hashText(hash)]));
}
