import { z } from 'zod';
import type { Transaction } from 'sequelize';
import { foldName } from '../../core/drawer';
import { sameBytes } from '../../core/midi';
import { Problem } from '../../core/problem';
import type { Slot } from '../../core/profile';
import type { Studio } from '../db/connection';
import { tornFile } from '../db/damage';
import { over, whole, wholeOrNull, type Kept } from './chains';
import { chainsOf, hasHash, hashText } from './hashes';
import { all, hexOf, parsed, run, stored } from './sql';
import { numbersOf, told } from './words';

/** Every sixteenth form of a sound is kept whole, so that any is built in 15 steps. */
const CHAIN = 16;
/** Sounds that are read between two breaths of the server. */
const PART = 500;

/** Names the sounds of one area of a model. */
export const kindOf = (profileId: string, area: string): string => JSON.stringify([profileId, area]);
const kindSchema = z.tuple([z.string(), z.string()]);
export const fromKind = (kind: string): { profileId: string; area: string } => {
	const [profileId, area] = stored(kindSchema, parsed(kind));
	return { profileId, area };
};

/** A sound by itself: the content of a slot. */
export interface StoredRecord {
	hash: string;
	name: string | null;
	bytes: Uint8Array;
}

/** A slot's content that shall be kept; `record` is its SHA-256, `like` the sound that was in its slot before. */
export interface NewRecord {
	slot: Slot;
	record: string;
	like?: number;
}

interface Row extends Omit<Kept, 'data'> {
	kind: number;
	name: string | null;
	/** Null for one that was never taken from its version. */
	data: Buffer | null;
}

const ROWS = `SELECT k.id, k.kind, k.hash, k.form, k.base, k.place, k.data, n.name
	FROM chain c JOIN records k ON k.id = c.id LEFT JOIN names n ON n.id = k.name`;
const { byHash, byId } = chainsOf('records');

const load = async (
	studio: Studio,
	sql: string,
	of: readonly (string | number)[],
	transaction?: Transaction
): Promise<Map<number, Row>> =>
	new Map(
		(await all<Row>(studio, `${sql} ${ROWS}`, [JSON.stringify(of)], transaction)).map((row) => [row.id, row])
	);

/** The content of a sound, or null where it is damaged or was never taken from its version. */
const read = (
	rows: ReadonlyMap<number, Row>,
	id: number,
	known: Map<number, Uint8Array>
): Uint8Array | null =>
	(rows.get(id)?.data ?? null) === null ? null : wholeOrNull(rows as ReadonlyMap<number, Kept>, id, known);

/** Keeps what slots held, each content once; what is there damaged is replaced. */
export async function keepRecords(
	studio: Studio,
	profileId: string,
	slots: readonly NewRecord[],
	transaction: Transaction
): Promise<void> {
	if (slots.length === 0) return;
	const kinds = await numbersOf(
		studio,
		slots.map(({ slot }) => kindOf(profileId, slot.area)),
		transaction
	);
	const kind = (area: string) => kinds(kindOf(profileId, area));
	const rows = await load(studio, byHash, [...new Set(slots.map(({ record }) => record))], transaction);
	const ids = new Map([...rows.values()].map((row) => [`${row.kind} ${hashText(row.hash)}`, row.id]));
	const known = new Map<number, Uint8Array>();
	const fresh = new Map<string, NewRecord>();
	for (const entry of slots) {
		const key = `${kind(entry.slot.area)} ${entry.record}`;
		const id = ids.get(key);
		if (id === undefined) fresh.set(key, entry);
		else {
			const stored = read(rows, id, known);
			if (!stored || !sameBytes(stored, entry.slot.bytes)) {
				const { form, place, data } = whole(entry.slot.bytes);
				await run(
					studio,
					'UPDATE records SET form = ?, base = NULL, place = ?, data = ? WHERE id = ?',
					[form, place, data, id],
					transaction
				);
			}
		}
	}
	if (fresh.size === 0) return;
	const before = await load(
		studio,
		byId,
		[...new Set([...fresh.values()].flatMap(({ like }) => like ?? []))],
		transaction
	);
	const names = [...new Set([...fresh.values()].flatMap(({ slot }) => slot.name ?? []))];
	await run(
		studio,
		'INSERT OR IGNORE INTO names (name, folded) SELECT value ->> 0, NULLIF(value ->> 1, lower(value ->> 0)) FROM json_each(?)',
		[JSON.stringify(names.map((name) => [name, foldName(name)]))],
		transaction
	);
	await run(
		studio,
		`INSERT INTO records (kind, hash, name, form, base, place, data)
		 SELECT value ->> 0, unhex(value ->> 1), (SELECT n.id FROM names n WHERE n.name = value ->> 2),
			value ->> 3, value ->> 4, value ->> 5, unhex(value ->> 6) FROM json_each(?)`,
		[
			JSON.stringify(
				[...fresh.values()].map(({ slot, record, like }) => {
					const near = like === undefined ? undefined : before.get(like);
					const place = (near?.place ?? CHAIN) + 1;
					// Nothing is built on what is damaged.
					const bytes = near && place < CHAIN ? read(before, near.id, known) : null;
					const row = over(bytes && { id: near!.id, bytes }, place, slot.bytes);
					return [kind(slot.area), record, slot.name, row.form, row.base, row.place, hexOf(row.data)];
				})
			)
		],
		transaction
	);
}

const damaged = (hash: string) =>
	new Problem(
		'record.damaged',
		`The stored sound ${hash.slice(0, 12)} is damaged: its content does not match its name.`,
		'Run “check”: it takes the sound anew from the versions that hold it.',
		{ hash }
	);

/** Contents by hash, each checked against it. Hashes that are not kept are left out. @throws Problem `record.damaged` */
export async function getRecords(
	studio: Studio,
	hashes: readonly string[],
	transaction?: Transaction
): Promise<Map<string, Uint8Array>> {
	const wanted = new Set(hashes);
	const found = new Map<string, Uint8Array>();
	const rows = await load(studio, byHash, [...wanted], transaction);
	const known = new Map<number, Uint8Array>();
	for (const row of rows.values()) {
		const hash = hashText(row.hash);
		if (!wanted.has(hash) || row.data === null) continue;
		const bytes = read(rows, row.id, known);
		if (!bytes) throw damaged(hash);
		found.set(hash, bytes);
	}
	return found;
}

/** A sound with what it belongs to. */
export type DescribedRecord = StoredRecord & { profileId: string; area: string };

/** A sound by its hash, or undefined. @throws Problem `record.damaged` */
export async function getRecord(studio: Studio, hash: string): Promise<DescribedRecord | undefined> {
	const rows = await load(studio, byHash, [hash]);
	const row = [...rows.values()].find((each) => each.data !== null && hashText(each.hash) === hash);
	if (!row) return undefined;
	const bytes = read(rows, row.id, new Map());
	if (!bytes) throw damaged(hash);
	const [{ kind }] = await told(studio, [{ kind: row.kind }], ['kind']);
	return { ...fromKind(kind), hash, name: row.name, bytes };
}

/** A sound by its hash. @throws Problem `sound.not-found`, `record.damaged` */
export async function keptRecord(studio: Studio, hash: string): Promise<DescribedRecord> {
	const record = await getRecord(studio, hash);
	if (record) return record;
	throw new Problem('sound.not-found', 'That sound is not kept.', 'Look for it by its name again.');
}

/** What sounds are kept as: a content can be one of several models. */
export async function kindsOfRecords(
	studio: Studio,
	hashes: readonly string[]
): Promise<Map<string, { profileId: string; area: string }[]>> {
	const wanted = new Set(hashes);
	const rows = [...(await load(studio, byHash, [...wanted])).values()]
		.map(({ kind, hash }) => ({ kind, hash: hashText(hash) }))
		.filter(({ hash }) => wanted.has(hash));
	const kinds = new Map<string, { profileId: string; area: string }[]>();
	for (const { kind, hash } of await told(studio, rows, ['kind']))
		kinds.set(hash, [...(kinds.get(hash) ?? []), fromKind(kind)]);
	return kinds;
}

/** As `getRecord`, for many; damaged ones are left out. */
export async function describeRecords(
	studio: Studio,
	hashes: readonly string[]
): Promise<Map<string, DescribedRecord>> {
	const wanted = new Set(hashes);
	const rows = await load(studio, byHash, [...wanted]);
	const known = new Map<number, Uint8Array>();
	const whole = [...rows.values()].flatMap((row) => {
		const hash = hashText(row.hash);
		const bytes = wanted.has(hash) ? read(rows, row.id, known) : null;
		return bytes ? [{ kind: row.kind, hash, name: row.name, bytes }] : [];
	});
	return new Map(
		(await told(studio, whole, ['kind'])).map(({ kind, ...row }) => [row.hash, { ...fromKind(kind), ...row }])
	);
}

/** All undamaged sounds of one area of a model, a part at a time; damaged ones are named by `check`. */
export async function* recordsOf(
	studio: Studio,
	profileId: string,
	area: string
): AsyncGenerator<StoredRecord[]> {
	const kind = (await numbersOf(studio, [kindOf(profileId, area)]))(kindOf(profileId, area));
	for (let after = -1; ;) {
		const own = (
			await all<{ id: number }>(
				studio,
				'SELECT id FROM records WHERE +kind = ? AND id > ? ORDER BY id LIMIT ?',
				[kind, after, PART]
			)
		).map(({ id }) => id);
		if (own.length === 0) return;
		after = own.at(-1)!;
		const rows = await load(studio, byId, own);
		const known = new Map<number, Uint8Array>();
		yield own.flatMap((id) => {
			const bytes = read(rows, id, known);
			const { hash, name } = found(rows, id);
			return bytes ? [{ hash: hashText(hash), name, bytes }] : [];
		});
	}
}

/** A row that was asked for by its number. @throws Problem `studio.torn` where the file does not give it */
function found<T>(rows: ReadonlyMap<number, T>, id: number): T {
	const row = rows.get(id);
	if (row === undefined) throw tornFile(`sound ${id} is missing`);
	return row;
}

/** How many sounds are kept, by model and area. */
export async function countRecords(
	studio: Studio
): Promise<{ profileId: string; area: string; n: number }[]> {
	const rows = await all<{ kind: number; n: number }>(
		studio,
		'SELECT kind, COUNT(*) AS n FROM records WHERE data IS NOT NULL GROUP BY kind'
	);
	return (await told(studio, rows, ['kind'])).map(({ kind, n }) => ({ ...fromKind(kind), n }));
}

/** Every stored sound whose content does not match its name, a part of the store at a time. */
export async function* damagedRecords(studio: Studio): AsyncGenerator<{
	checked: number;
	damaged: { profileId: string; area: string; hash: string; name: string | null }[];
}> {
	let after = 0;
	for (;;) {
		const numbers = await all<{ id: number }>(
			studio,
			'SELECT id FROM records WHERE id > ? AND data IS NOT NULL ORDER BY id LIMIT ?',
			[after, PART]
		);
		if (numbers.length === 0) return;
		const own = numbers.map(({ id }) => id);
		const rows = await load(studio, byId, own);
		const known = new Map<number, Uint8Array>();
		const bad = own.flatMap((id) => (read(rows, id, known) ? [] : [found(rows, id)]));
		yield {
			checked: own.length,
			damaged: (await told(studio, bad, ['kind'])).map(({ kind, hash, name }) => ({
				...fromKind(kind),
				hash: hashText(hash),
				name
			}))
		};
		after = own.at(-1)!;
	}
}

/** Versions in which a sound was seen first, oldest first. */
export async function versionsOfRecord(studio: Studio, hash: string): Promise<string[]> {
	const rows = await all<{ id: string }>(
		studio,
		`SELECT v.id FROM records k INDEXED BY records_by_hash JOIN slot_runs r ON r.record = k.id JOIN versions v ON v.seq = r.version
		 WHERE ${hasHash('k', '?1')} GROUP BY v.seq ORDER BY MIN(r.fromAt)`,
		[hash]
	);
	return rows.map(({ id }) => id);
}

/** Versions whose sounds are not all kept by themselves: those of studios from before they were. */
export async function versionsWithoutRecords(studio: Studio): Promise<string[]> {
	const rows = await all<{ id: string }>(
		studio,
		`SELECT DISTINCT v.id FROM records k INDEXED BY records_to_take CROSS JOIN slot_runs r ON r.record = k.id JOIN versions v ON v.seq = r.version
		 WHERE k.data IS NULL`
	);
	return rows.map(({ id }) => id);
}
